import type { FadeShape } from '../dsp/index.ts';
import type { LengthLimit } from './length-limits.ts';

/** How the length is settled, in frames of the result. */
export type LengthRule =
  | {
      readonly kind: 'blocks';
      readonly multipleOf: number;
      readonly least: number;
      readonly by: 'trim' | 'pad' | 'nearest';
    }
  | { readonly kind: 'exact'; readonly frames: number; readonly by: 'cut' | 'stretch' };

export interface Fade {
  readonly frames: number;
  readonly shape: FadeShape;
}

export interface Silence {
  readonly frames: number;
  readonly atLeast: boolean;
}

/** All lengths in frames of the result. */
export interface EndsPlan {
  /** Frames that come from Rate. */
  readonly incoming: number;
  /** Frames of the result; the most there can be where only the sound itself will tell. */
  readonly frames: number;
  /** True if silence or a seam is looked for in the sound, so that `frames` may become fewer. */
  readonly isOpen: boolean;
  /** Linear threshold and what stays of the silence at either end; null leaves it. */
  readonly trim: {
    readonly threshold: number;
    readonly keepFront: number;
    readonly keepBack: number;
    readonly isByHand: boolean;
  } | null;
  readonly loop: { readonly search: number; readonly crossFade: number } | null;
  readonly fadeIn: Fade;
  readonly fadeOut: Fade;
  readonly front: Silence;
  readonly back: Silence;
  readonly rule: LengthRule;
  /** What the sheet allows at most. */
  readonly limit: LengthLimit | null;
}

/** What is done with the sound: the part that is kept, its new length, and the silence around it. In frames. */
export interface Layout {
  readonly from: number;
  readonly to: number;
  /** Frames that the kept part becomes: the same number unless it is stretched or cut. */
  readonly sound: number;
  readonly stretch: boolean;
  readonly front: number;
  readonly back: number;
}

/** Frames that a sound of `total` frames is to have. */
function lengthBy(rule: LengthRule, total: number): number {
  if (rule.kind === 'exact') return rule.frames;
  const { multipleOf, least, by } = rule;
  const round = by === 'pad' ? Math.ceil : by === 'nearest' ? Math.round : Math.floor;
  return Math.max(round(total / multipleOf), Math.ceil(Math.max(1, least) / multipleOf)) * multipleOf;
}

/**
 * Lays out the result. What is too long loses silence at the end first, then the end of the sound, then silence at the start;
 * what is too short gets silence at the end.
 * @param sound the part that is kept, and the silence at its two ends
 */
export function layOut(
  { rule, front, back }: Pick<EndsPlan, 'rule' | 'front' | 'back'>,
  sound: { readonly from: number; readonly to: number; readonly lead: number; readonly tail: number },
): Layout {
  const { from, to, lead, tail } = sound;
  const kept = to - from;
  const inFront = front.atLeast ? Math.max(0, front.frames - lead) : front.frames;
  const behind = back.atLeast ? Math.max(0, back.frames - tail) : back.frames;
  const total = lengthBy(rule, inFront + kept + behind);
  if (rule.kind === 'exact' && rule.by === 'stretch' && total > inFront + behind) {
    return { from, to, sound: total - inFront - behind, stretch: true, front: inFront, back: behind };
  }
  const ahead = Math.min(inFront, total);
  const length = Math.min(kept, total - ahead);
  return { from, to: from + length, sound: length, stretch: false, front: ahead, back: total - ahead - length };
}

export const lengthOf = ({ front, sound, back }: Layout): number => front + sound + back;

/** Cents by which a sound goes up when `from` frames become `to` of the same rate: 1 200 log2(from / to). */
export const centsOf = (from: number, to: number): number => 1200 * Math.log2(from / to);
