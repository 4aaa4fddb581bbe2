import * as v from 'valibot';
import { DITHERS, type Dither, ROUNDINGS, type Rounding } from '../../dsp/index.ts';
import { findCompressed, findEncoding, plainEncodingOf } from '../../encodings/index.ts';
import { encodingTitle, type Facts } from '../../facts/index.ts';
import { wholeWithin } from '../../forms/index.ts';
import type { SettledDemands } from '../../targets/index.ts';
import { BY_HAND, bySheet, type SettledStation, station } from '../station.ts';
import { wrap } from './wrap.ts';

/** Values that Depth accepts: bits of the levels used, and where the noise of dither begins. */
export const DEPTH_RANGES = {
  bits: { least: 1, most: 32 },
  seed: { least: 0, most: 0x7fff_ffff },
} as const;

const wish = v.strictObject({
  /** Levels used: 2 to this power; no more than the encoding has. */
  bits: v.optional(wholeWithin(DEPTH_RANGES.bits)),
  dither: v.optional(v.picklist(DITHERS)),
  rounding: v.optional(v.picklist(ROUNDINGS)),
  seed: v.optional(wholeWithin(DEPTH_RANGES.seed)),
  /** False: dither goes on in digital silence. */
  blanks: v.optional(v.boolean()),
});

/** Null bits: the encoding stores floating-point numbers and nothing is rounded. */
export interface DepthPlan {
  readonly bits: number | null;
  readonly dither: Dither;
  readonly rounding: Rounding;
  readonly seed: number;
  readonly blanks: boolean;
}

/** Coarser than this, rounding is heard as distortion and dither pays. Common practice, no source. */
const DITHER_UP_TO_BITS = 8;
const USUAL_SEED = 1;
const USUAL_BITS = 16;

const words: Readonly<Record<Dither, string>> = {
  none: '',
  rectangular: 'Hiss that follows the sound (rectangular dither).',
  triangular: 'Even hiss (triangular dither).',
  shaped: 'Hiss where one hears it less (shaped dither).',
};

/** What stands in a comparison. */
const labels: Readonly<Record<Dither, string>> = {
  none: 'no noise',
  rectangular: 'noise, one step',
  triangular: 'noise, two steps',
  shaped: 'noise moved away',
};

/** Signal to noise of a full-scale sine at so many bits, in dB: 6.02 N + 1.76, that is 20 N log10 2 + 10 log10 1.5. */
export const idealSignalToNoise = (bits: number): number => 20 * bits * Math.log10(2) + 10 * Math.log10(1.5);

interface Levels {
  readonly linearBits: number;
  readonly companded: boolean;
  readonly bitDepth: number;
  readonly title: string;
  readonly isFloat: boolean;
}

const lossless = (bits: number) => ({ linearBits: bits, companded: false, bitDepth: bits, isFloat: false });

function levelsOf(id: string): Levels {
  const encoding = plainEncodingOf(id);
  const { bitDepth } = encoding;
  const title = encodingTitle(id);
  if (encoding.kind === 'float') return { linearBits: bitDepth, companded: false, bitDepth, title, isFloat: true };
  return { linearBits: encoding.linearBits, companded: encoding.companded, bitDepth, title, isFloat: false };
}

const unrounded = (figure: string, why: string, byHand: boolean): SettledStation<DepthPlan> => ({
  plan: { bits: null, dither: 'none', rounding: 'nearest', seed: USUAL_SEED, blanks: true },
  byHand,
  figure,
  why,
});

/** Bits that hold every sample of a source as it is; of floating-point numbers and compressed sound the usual ones. */
function sourceBits({ encoding, bitDepth }: Facts): number {
  const plain = findEncoding(encoding);
  // Companded samples stand for more bits than they have.
  if (plain && plain.kind !== 'float' && plain.companded) return plain.linearBits;
  return bitDepth ?? USUAL_BITS;
}

/** Bits of a sample that every reader of a lossless encoding knows (common practice, no source). */
const READ_EVERYWHERE = [8, 16, 24];

/** Bits that some readers of a lossless encoding cannot open, and the next that all of them can; null if there are none. */
export function widelyRead({ bits }: Pick<DepthPlan, 'bits'>, encoding: string): number | null {
  if (bits === null || !findCompressed(encoding)?.depths || READ_EVERYWHERE.includes(bits)) return null;
  return READ_EVERYWHERE.find((depth) => depth > bits) ?? null;
}

/** Of the depths that a lossless encoding has, the source's own or the next above, within what the sheet wants. */
function losslessDepth(depths: readonly number[], facts: Facts, { bitDepths }: SettledDemands): number {
  const wanted = depths.filter((bits) => bitDepths?.value.includes(bits) ?? true);
  const usable = wanted.length ? wanted : depths;
  const needed = sourceBits(facts);
  return usable.find((bits) => bits >= needed) ?? usable[usable.length - 1];
}

/** Where that is a depth that some readers cannot open, a deeper one can be set by hand: every sample stays what it is. */
const orDeeper = (own: number, wished: number | undefined, encoding: string): number =>
  wished !== undefined && wished === widelyRead({ bits: own }, encoding) ? wished : own;

/** How many levels, and how values between them are rounded. */
export const depth = station({
  id: 'depth',
  title: 'Depth',
  wish,
  needs: { wrap },
  settle({ facts, demands }, wished: v.InferOutput<typeof wish> | undefined, { wrap }): SettledStation<DepthPlan> {
    const library = findCompressed(wrap.encoding);
    if (library && !library.depths) {
      return unrounded(
        'lossy',
        `${library.title} stores no samples, so there are no levels to set: its bit rate decides what is lost.`,
        wished !== undefined,
      );
    }
    const { linearBits, companded, bitDepth, title, isFloat } = library?.depths
      ? {
          ...lossless(orDeeper(losslessDepth(library.depths, facts, demands), wished?.bits, wrap.encoding)),
          title: library.title,
        }
      : levelsOf(wrap.encoding);
    if (isFloat) {
      return unrounded(`${bitDepth}-bit float`, 'Floating-point samples are stored unrounded.', wished !== undefined);
    }
    const bits = Math.min(wished?.bits ?? linearBits, linearBits);
    // What is kept as it is needs no dither.
    const isKept = library !== undefined && bits >= sourceBits(facts);
    const usual: Dither = bits <= DITHER_UP_TO_BITS && !companded && !isKept ? 'triangular' : 'none';
    const dither = wished?.dither ?? usual;
    const rounding = wished?.rounding ?? 'nearest';
    const plain = rounding === 'down' ? 'Low bits are cut off.' : 'Plain rounding.';
    const better = widelyRead({ bits }, wrap.encoding);
    const rare = better
      ? ` Some readers cannot open ${title} of ${bits} bits; with ${better} all can, and nothing is lost.`
      : '';
    return {
      plan: { bits, dither, rounding, seed: wished?.seed ?? USUAL_SEED, blanks: wished?.blanks ?? true },
      byHand: wished !== undefined,
      figure: `${companded && bits === linearBits ? bitDepth : bits} bit`,
      why: `${wished ? BY_HAND : bySheet(title)} ${words[dither] || plain}${rare}`,
    };
  },
  alternatives(plan, _, { wrap }) {
    const better = widelyRead(plan, wrap.encoding);
    return [
      ...(better ? [{ label: `${better} bit`, wish: { bits: better } }] : []),
      ...DITHERS.map((dither) => ({ label: labels[dither], wish: { dither } })),
    ];
  },
  inPiece: (plan, _, { wrap }) => ({
    plan,
    provisional: [
      ...(plan.dither === 'shaped' ? ['the shaped noise'] : []),
      // What is lossless has a depth.
      ...(wrap.compressed && plan.bits === null
        ? [`what ${encodingTitle(wrap.encoding)} loses, near the ends of a piece`]
        : []),
    ],
  }),
});
