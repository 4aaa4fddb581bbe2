import * as v from 'valibot';
import { formatRate, InputError } from '../../audio/index.ts';
import { MAX_RATE, MAX_RATIO, Resampler } from '../../dsp/index.ts';
import { BY_HAND, bySheet, type Station } from '../station.ts';

const wish = v.strictObject({ sampleRate: v.pipe(v.number(), v.integer(), v.minValue(1000), v.maxValue(MAX_RATE)) });

export interface RatePlan {
  readonly from: number;
  readonly to: number;
}

/** The sample rate of the result. */
export const rate: Station<v.InferOutput<typeof wish>, RatePlan> = {
  title: 'Rate',
  wish,
  needs: [],
  settle({ facts, demands: { sampleRates } }, wished) {
    const from = facts.sampleRate;
    const wanted = sampleRates?.value;
    const to = wished?.sampleRate ?? (!wanted || wanted.includes(from) ? from : wanted[0]);
    if (Math.max(from / to, to / from) > MAX_RATIO) {
      throw new InputError(
        'bad-setting',
        `Rate: ${formatRate(to)} is too far from the source's ${formatRate(from)}; choose a rate nearer to it.`,
      );
    }
    const kept = `Kept from the source${wanted ? '; the sheet accepts it' : ': the sheet does not ask for one'}.`;
    const lost = to < from ? ` Nothing above ${formatRate(to / 2)} survives.` : '';
    return {
      plan: { from, to },
      byHand: wished !== undefined,
      figure: formatRate(to),
      why: wished ? BY_HAND + lost : to === from ? kept : bySheet(formatRate(to)) + lost,
    };
  },
  blocks({ from, to }) {
    const resamplers: Resampler[] = [];
    return {
      push: (channels) =>
        channels.map((samples, channel) => {
          resamplers[channel] ??= new Resampler(from, to);
          return resamplers[channel].push(samples);
        }),
      finish: () => resamplers.map((resampler) => resampler.finish()),
    };
  },
};
