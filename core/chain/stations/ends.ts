import * as v from 'valibot';
import { formatCount, formatLength, formatSeconds, framesAtRate } from '../../audio/index.ts';
import { BY_HAND, type Station } from '../station.ts';
import type { CutPlan } from './cut.ts';
import type { RatePlan } from './rate.ts';

const wish = v.strictObject({ block: v.picklist(['trim', 'pad']) });

export interface EndsPlan {
  /** Frames that come from Rate. */
  readonly incoming: number;
  /** Frames of the result: fewer trims the end, more pads it with silence. */
  readonly frames: number;
}

export interface EndsBefore {
  readonly cut: CutPlan;
  readonly rate: RatePlan;
}

/**
 * Where the result ends: the block rule, in frames of the result. Automatic trims the part of a block that is left over
 * and pads only what is shorter than the least length. A greatest length is never met in silence: that is an obstacle.
 */
export const ends: Station<v.InferOutput<typeof wish>, EndsPlan, EndsBefore> = {
  title: 'Ends',
  wish,
  needs: ['cut', 'rate'],
  settle({ demands }, wished, { cut, rate }) {
    const incoming = framesAtRate(cut.end - cut.start, rate.from, rate.to);
    const rule = demands.frames?.value;
    if (!rule) {
      return {
        plan: { incoming, frames: Math.max(1, incoming) },
        byHand: wished !== undefined,
        figure: formatSeconds(Math.max(1, incoming) / rate.to),
        why: 'The sheet has no rule for the length: it stays as cut.',
      };
    }
    const { multipleOf, least } = rule;
    const rounded = (wished?.block === 'pad' ? Math.ceil : Math.floor)(incoming / multipleOf) * multipleOf;
    const frames = Math.max(rounded, Math.ceil(least / multipleOf) * multipleOf);
    const change =
      frames < incoming
        ? `Trims ${formatLength(incoming - frames, rate.to)}.`
        : frames > incoming
          ? `Pads ${formatLength(frames - incoming, rate.to)} of silence.`
          : 'The length fits as it is.';
    const rules =
      multipleOf > 1 ? `The sheet wants blocks of ${formatCount(multipleOf)} frames.` : 'The sheet limits the length.';
    return {
      plan: { incoming, frames },
      byHand: wished !== undefined,
      figure: multipleOf > 1 ? `${formatCount(frames / multipleOf)} × ${formatCount(multipleOf)}` : formatCount(frames),
      why: `${wished ? BY_HAND : rules} ${change}`,
    };
  },
  obstacles({ demands, facts }, { incoming, frames }, { cut, rate }) {
    const most = demands.frames?.value.most ?? null;
    if (most === null || frames <= most) return [];
    // The longest cut whose frames at the new rate do not exceed the greatest length.
    const length = Math.floor((most * rate.from) / rate.to);
    const over = cut.end - cut.start - length;
    return [
      {
        station: 'ends',
        text: `It is ${formatSeconds((Math.max(incoming, frames) - most) / rate.to)} too long: the sheet allows ${formatLength(most, rate.to)}.`,
        ways: [
          {
            label: `Cut ${formatSeconds(over / facts.sampleRate)} off the end`,
            station: 'cut',
            wish: { start: cut.start, end: cut.start + length },
          },
          ...(cut.end - length > 0
            ? [
                {
                  label: `Cut ${formatSeconds(over / facts.sampleRate)} off the start`,
                  station: 'cut' as const,
                  wish: { start: cut.end - length, end: cut.end },
                },
              ]
            : []),
        ],
      },
    ];
  },
  whole: ({ frames }, channels) =>
    channels.map((samples) => {
      if (samples.length >= frames) return samples.subarray(0, frames);
      const padded = new Float32Array(frames);
      padded.set(samples);
      return padded;
    }),
};
