import { kernelBase64 } from './kernel.wasm.ts';

let module: WebAssembly.Module | null | undefined;

/** The compiled kernels, or null if the engine has no SIMD WebAssembly. Compiled once, at first use. */
export function kernelModule(): WebAssembly.Module | null {
  if (module === undefined) {
    try {
      module = new WebAssembly.Module(Uint8Array.from(atob(kernelBase64), (char) => char.charCodeAt(0)));
    } catch {
      module = null;
    }
  }
  return module;
}

const PAGE = 65_536;

export type KernelExports = WebAssembly.Instance['exports'];

/** A new instance of the kernels with room for `bytes` in its memory. */
export function kernelInstance(compiled: WebAssembly.Module, bytes: number): KernelExports {
  const { exports } = new WebAssembly.Instance(compiled);
  const memory = exports.memory as WebAssembly.Memory;
  const wanted = Math.ceil(bytes / PAGE) - memory.buffer.byteLength / PAGE;
  if (wanted > 0) memory.grow(wanted);
  return exports;
}
