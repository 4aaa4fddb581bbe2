import { findEncoding, IMA_STEPS, layoutOf, OKI_STEPS, pcmShapeOf } from '../../encodings/index.ts';
import { elementOf } from './elements.ts';

/** How the numbers of an array become samples, for whoever writes that down in a language. */
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
  /** G.711: one code in each byte. */
  | { readonly kind: 'companded'; readonly law: 'mu' | 'a' }
  /** Codes of 4 bits, two in a byte; channels take turns. `shift` brings a sample to 16 bits. */
  | { readonly kind: 'nibbles'; readonly first: 'high' | 'low'; readonly table: 'ima' | 'oki'; readonly shift: number }
  /** The same in blocks that begin with the first sample and the step of each channel. */
  | { readonly kind: 'blocks'; readonly blockBytes: number; readonly blockFrames: number };

/** The tables of steps, and the lowest and highest sample by them. */
export const STEP_TABLES = {
  ima: { steps: IMA_STEPS, most: 32_767 },
  oki: { steps: OKI_STEPS, most: 2047 },
} as const;

/** Which table of steps a decoding goes by; null where by none. */
export const stepTableOf = (decoding: Decoding): keyof typeof STEP_TABLES | null =>
  decoding.kind === 'nibbles' ? decoding.table : decoding.kind === 'blocks' ? 'ima' : null;

/** How samples of an encoding are decoded; null where that takes floating point, or a library. */
export function decodingOf(id: string, channels: number, sampleRate: number): Decoding | null {
  if (id === 'mu-law' || id === 'a-law') return { kind: 'companded', law: id === 'a-law' ? 'a' : 'mu' };
  const nibbles = /^(ima|oki)-adpcm(?:-(low|high))?$/.exec(id);
  const encoding = findEncoding(id);
  if (id === 'ima-adpcm' && encoding?.kind === 'block') {
    const { unitBytes, unitFrames } = encoding.codec(layoutOf(encoding, channels, sampleRate));
    return { kind: 'blocks', blockBytes: unitBytes, blockFrames: unitFrames };
  }
  if (nibbles) {
    const table = nibbles[1] === 'oki' ? 'oki' : 'ima';
    return { kind: 'nibbles', first: nibbles[2] === 'low' ? 'low' : 'high', table, shift: table === 'oki' ? 4 : 0 };
  }
  const shape = pcmShapeOf(id);
  if (!shape || !encoding) return null;
  const { bits, signed, bigEndian, left, packed } = shape;
  if (packed) return { kind: 'packed', bits, signed, first: packed };
  const bytes = Math.ceil(bits / 8);
  const below = left ? 8 * bytes - bits : 0;
  const element = elementOf(encoding);
  if (!element.isFloat && element.bytes === bytes) return { kind: 'number', bits, signed, bytes: element.bytes, below };
  return { kind: 'bytes', bits, signed, bytes, bigEndian, below };
}
