// Globals that every JavaScript engine here offers and that the plain ECMAScript library does not declare.
declare function atob(base64: string): string;
declare namespace WebAssembly {
  class Module {
    constructor(bytes: Uint8Array);
  }
  class Memory {
    readonly buffer: ArrayBuffer;
    grow(pages: number): number;
  }
  class Instance {
    readonly exports: Record<string, unknown>;
    constructor(module: Module);
  }
}
declare class TextEncoder {
  encode(text: string): Uint8Array<ArrayBuffer>;
}
declare class TextDecoder {
  constructor(encoding?: string, options?: { readonly fatal?: boolean });
  decode(bytes: Uint8Array): string;
}
