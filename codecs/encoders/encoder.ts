import { concatenated, type EncoderOrder, type SoundEncoder } from '@tambur/core';

/** Opens the encoder for one compressed encoding. */
export type EncoderMaker = (order: EncoderOrder) => Promise<SoundEncoder>;

/** `close` of an encoder that holds nothing but plain memory, or WebAssembly's, which goes when nobody knows it any more. */
export const noHold = (): void => undefined;

/** Letters as bytes, one each. */
export const ascii = (text: string): Uint8Array => Uint8Array.from(text, (char) => char.charCodeAt(0));

/** Gathers what an encoder gives until the end, for files whose beginning states what only the end knows. */
export class Collected {
  private readonly parts: Uint8Array[] = [];

  /** Encoders use their memory again, so bytes are copied. */
  add(bytes: Uint8Array): void {
    if (bytes.length) this.parts.push(bytes.slice());
  }

  all(): Uint8Array {
    return concatenated(this.parts);
  }
}

/** Blocks cut into pieces of so many frames. */
export class Pieces {
  private readonly frames: number;
  private waiting: Float32Array[];
  private filled = 0;

  constructor(channels: number, frames: number) {
    this.frames = frames;
    this.waiting = Array.from({ length: channels }, () => new Float32Array(frames));
  }

  /** Calls `use` with each piece that became whole; a piece is valid until the next. */
  push(block: readonly Float32Array[], use: (piece: readonly Float32Array[]) => void): void {
    const length = block[0]?.length ?? 0;
    for (let at = 0; at < length; ) {
      const take = Math.min(length - at, this.frames - this.filled);
      this.waiting.forEach((samples, channel) => {
        samples.set(block[channel]?.subarray(at, at + take) ?? [], this.filled);
      });
      this.filled += take;
      at += take;
      if (this.filled === this.frames) {
        use(this.waiting);
        this.filled = 0;
      }
    }
  }

  /** The rest as a piece that is shorter; nothing if there is none. */
  finish(use: (piece: readonly Float32Array[]) => void): void {
    if (this.filled === 0) return;
    use(this.waiting.map((samples) => samples.subarray(0, this.filled)));
    this.filled = 0;
  }

  /** The rest as a whole piece, filled up with silence; nothing if there is none. */
  finishWhole(use: (piece: readonly Float32Array[]) => void): void {
    if (this.filled === 0) return;
    for (const samples of this.waiting) samples.fill(0, this.filled);
    use(this.waiting);
    this.filled = 0;
  }
}
