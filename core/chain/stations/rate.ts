import * as v from 'valibot';
import { FRACTION, formatCount, formatRate, hertz, InputError, type Rate } from '../../audio/index.ts';
import { MAX_RATE, MAX_RATIO, QUALITIES, Resampler } from '../../dsp/index.ts';
import { BY_HAND, bySheet, type Station } from '../station.ts';

const LEAST_RATE = 1000;
const isUsable = (text: string) => FRACTION.test(text) && hertz(text) >= LEAST_RATE && hertz(text) <= MAX_RATE;
const range = `a rate is ${formatRate(LEAST_RATE)} to ${formatRate(MAX_RATE)}`;

const wish = v.strictObject({
  /** Hz, or what a timer really makes, as its clock divided by a whole number: "16000000/1020". */
  sampleRate: v.optional(
    v.union([
      v.pipe(v.number(), v.minValue(LEAST_RATE), v.maxValue(MAX_RATE)),
      v.pipe(
        v.string(),
        v.regex(FRACTION, 'a rate is a number of Hz or a fraction such as 16000000/1020'),
        v.check(isUsable, range),
      ),
    ]),
  ),
  quality: v.optional(v.picklist(['standard', 'draft'])),
});

export interface RatePlan {
  /** Hz. */
  readonly from: number;
  readonly to: number;
  /** The new rate as it was given, exactly. */
  readonly exact: Rate;
  readonly quality: keyof typeof QUALITIES;
}

const draftNote = ` Draft: what lies above ${QUALITIES.draft.passBand * 100} % of the band is lost, mirrored tones are only ${QUALITIES.draft.attenuation} dB down.`;

/** The sample rate of the result. */
export const rate: Station<v.InferOutput<typeof wish>, RatePlan> = {
  title: 'Rate',
  wish,
  needs: [],
  settle({ facts, demands: { sampleRates } }, wished) {
    const from = facts.sampleRate;
    const wanted = sampleRates?.value;
    const exact = wished?.sampleRate ?? (!wanted || wanted.includes(from) ? from : wanted[0]);
    const to = hertz(exact);
    const quality = wished?.quality ?? 'standard';
    if (Math.max(from / to, to / from) > MAX_RATIO) {
      throw new InputError(
        'bad-setting',
        `Rate: ${formatRate(to)} is too far from the source's ${formatRate(from)}; choose a rate nearer to it.`,
      );
    }
    const kept = `Kept from the source${wanted ? '; the sheet accepts it' : ': the sheet does not ask for one'}.`;
    const lost = to < from ? ` Nothing above ${formatRate(to / 2)} survives.` : '';
    const given = typeof exact === 'string' ? FRACTION.exec(exact) : null;
    const fraction = given
      ? ` It is ${formatRate(Number(given[1]))} / ${formatCount(Number(given[2]))}; a file says ${formatRate(Math.round(to))}.`
      : '';
    const why =
      wished?.sampleRate !== undefined
        ? BY_HAND + fraction + lost
        : to === from
          ? kept
          : bySheet(formatRate(to)) + lost;
    const draft = quality === 'draft' && to !== from;
    return {
      plan: { from, to, exact, quality },
      byHand: wished !== undefined,
      figure: `${formatRate(to)}${draft ? ' draft' : ''}`,
      why: draft ? why + draftNote : why,
    };
  },
  steps: ({ from, exact, quality }, { channels }) => [
    {
      start() {
        const resamplers = Array.from({ length: channels }, () => new Resampler(from, exact, QUALITIES[quality]));
        return {
          push: (block) => resamplers.map((resampler, channel) => resampler.push(block[channel])),
          finish: () => resamplers.map((resampler) => resampler.finish()),
        };
      },
    },
  ],
};
