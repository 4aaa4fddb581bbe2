import * as v from 'valibot';
import type { Dither } from '../../dsp/index.ts';
import { encodingOf } from '../../encodings/index.ts';
import { encodingTitle } from '../../facts/index.ts';
import { BY_HAND, bySheet, type Station } from '../station.ts';
import type { WrapPlan } from './wrap.ts';

const wish = v.strictObject({
  /** Levels used: 2 to this power; no more than the encoding has. */
  bits: v.optional(v.pipe(v.number(), v.integer(), v.minValue(2), v.maxValue(32))),
  dither: v.optional(v.picklist(['none', 'triangular'])),
  seed: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(0x7fffffff))),
});

/** Null bits: the encoding stores floating-point numbers and nothing is rounded. */
export interface DepthPlan {
  readonly bits: number | null;
  readonly dither: Dither;
  readonly seed: number;
}

/** Coarser than this, rounding is heard as distortion and dither pays. Common practice, no source. */
const DITHER_UP_TO_BITS = 8;
const USUAL_SEED = 1;

/** How many levels, and how values between them are rounded. */
export const depth: Station<v.InferOutput<typeof wish>, DepthPlan, { readonly wrap: WrapPlan }> = {
  title: 'Depth',
  wish,
  needs: ['wrap'],
  settle(_, wished, { wrap }) {
    const encoding = encodingOf(wrap.encoding);
    if (encoding.kind === 'float') {
      return {
        plan: { bits: null, dither: 'none', seed: USUAL_SEED },
        byHand: wished !== undefined,
        figure: `${encoding.bitDepth}-bit float`,
        why: 'Floating-point samples are stored unrounded.',
      };
    }
    const bits = Math.min(wished?.bits ?? encoding.linearBits, encoding.linearBits);
    const usual: Dither = bits <= DITHER_UP_TO_BITS && !encoding.companded ? 'triangular' : 'none';
    const dither = wished?.dither ?? usual;
    const rounding =
      dither === 'triangular' ? 'Triangular dither turns rounding errors into even hiss.' : 'Plain rounding.';
    return {
      plan: { bits, dither, seed: wished?.seed ?? USUAL_SEED },
      byHand: wished !== undefined,
      figure: `${encoding.companded ? encoding.bitDepth : bits} bit`,
      why: `${wished ? BY_HAND : bySheet(encodingTitle(encoding.id))} ${rounding}`,
    };
  },
};
