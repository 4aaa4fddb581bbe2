import type { StepRule } from './step-coder.ts';

/** How the numbers of an array become samples, for players in source code. */
export type Decoding =
  /** Each number of so many bytes is a sample of so many bits, with so many unused ones below it. */
  | {
      readonly kind: 'number';
      readonly bits: number;
      readonly signed: boolean;
      readonly bytes: 1 | 2 | 4;
      readonly below: number;
    }
  /** So many bytes are a sample likewise. */
  | {
      readonly kind: 'bytes';
      readonly bits: number;
      readonly signed: boolean;
      readonly bytes: number;
      readonly bigEndian: boolean;
      readonly below: number;
    }
  /** Bits without a gap. */
  | { readonly kind: 'packed'; readonly bits: number; readonly signed: boolean; readonly first: 'high' | 'low' }
  /**
   * Each byte is a sample by a rule of its own: by language the lines that make 16 bits of `code`. They end with `return`, in Python
   * with `yield`, in Rust with the value. A language that has none does not play it.
   */
  | { readonly kind: 'code'; readonly lines: Readonly<Partial<Record<string, readonly string[]>>> }
  /** Codes of 4 bits, two in a byte; channels take turns. `shift` brings a sample to 16 bits. */
  | { readonly kind: 'nibbles'; readonly first: 'high' | 'low'; readonly rule: StepRule; readonly shift: number }
  /** The same in blocks that begin with the first sample and the step of each channel. */
  | { readonly kind: 'blocks'; readonly rule: StepRule; readonly blockBytes: number; readonly blockFrames: number };

/** Decoding of whole numbers that fill their bytes; little-endian ones stand as numbers in an array. */
export function wholeDecoding(bits: number, signed: boolean, bigEndian: boolean, isLeft: boolean): Decoding {
  const bytes = Math.ceil(bits / 8);
  const below = isLeft ? 8 * bytes - bits : 0;
  return (bytes === 1 || bytes === 2 || bytes === 4) && !(bigEndian && bytes > 1)
    ? { kind: 'number', bits, signed, bytes, below }
    : { kind: 'bytes', bits, signed, bytes, bigEndian, below };
}
