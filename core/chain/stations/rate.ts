import * as v from 'valibot';
import { MAX_RATE, MAX_RATIO, QUALITIES, Resampler } from '../../dsp/index.ts';
import { carriesRate, nearestRate, writableEncoding } from '../../encodings/index.ts';
import { encodingTitle } from '../../facts/index.ts';
import { type NumberRange, within } from '../../forms/index.ts';
import { FRACTION, framesAtRate, hertz, type Rate, USUAL_RATES } from '../../numbers/index.ts';
import type { SettledDemands } from '../../targets/index.ts';
import { formatCount, formatRate, InputError } from '../../words/index.ts';
import { framesInFile } from '../length-limits.ts';
import { BY_HAND, bySheet, isAmong, type PlansOf, type SettledStation, station } from '../station.ts';
import { channels } from './channels.ts';
import { cut } from './cut.ts';
import { bitRateTrouble, wrap } from './wrap.ts';

/** Hz that a result can have. */
export const RATE_RANGE: NumberRange = { least: 1000, most: MAX_RATE };

const isUsable = (text: string) =>
  FRACTION.test(text) && hertz(text) >= RATE_RANGE.least && hertz(text) <= RATE_RANGE.most;
const range = `a rate is ${formatRate(RATE_RANGE.least)} to ${formatRate(RATE_RANGE.most)}`;

const wish = v.strictObject({
  /** Hz, or what a timer really makes, as its clock divided by a whole number: "16000000/1020". */
  sampleRate: v.optional(
    v.union([
      within(RATE_RANGE),
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
  /** Frames of the cut: by them it is chosen how the rate is changed. */
  readonly frames: number;
}

const needs = { cut, channels, wrap };
type Before = PlansOf<typeof needs>;

const draftNote = ` Draft: what lies above ${QUALITIES.draft.passBand * 100} % of the band is lost, mirrored tones are only ${QUALITIES.draft.attenuation} dB down.`;

interface Choice {
  readonly rate: Rate;
  /** A sentence, where it is neither kept nor simply wanted. */
  readonly because?: string;
}

/** Of rates that an encoding can carry, the source's own, or the next above, or the highest. */
function carried(from: number, encoding: string): Choice {
  const rate = nearestRate(writableEncoding(encoding), from);
  if (rate === from) return { rate };
  return { rate, because: `${encodingTitle(encoding)} carries ${formatRate(rate)}, the nearest to the source's rate.` };
}

/** Where a sheet leaves the rate open within limits: as it came if that will do, and as high as a given size allows. */
function withinRange(from: number, demands: SettledDemands, { cut, channels, wrap }: Before): Choice {
  const { rateRange, fileBytes } = demands;
  if (!rateRange) return { rate: from };
  const { least, most } = rateRange.value;
  const open = Math.min(most, Math.max(least, from));
  if (!fileBytes) return { rate: open };
  const length = cut.end - cut.start;
  const fits = (rate: number) => {
    const room = framesInFile(fileBytes.value, { ...wrap, sampleRate: rate, channels: channels.matrix.length });
    return room === null || framesAtRate(length, from, rate) <= room;
  };
  if (fits(open)) return { rate: open };
  // The highest whole rate that fits: found by halving, as more Hz never take less.
  let low = Math.ceil(least);
  let high = Math.floor(open);
  if (!fits(low)) return { rate: low, because: `Even the lowest rate, ${formatRate(low)}, is too high for the size.` };
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (fits(middle)) low = middle;
    else high = middle;
  }
  return { rate: low, because: `The highest rate that fits into ${formatCount(fileBytes.value)} bytes.` };
}

function automaticRate(from: number, demands: SettledDemands, before: Before): Choice {
  const wanted = demands.sampleRates?.value;
  if (wanted) return { rate: wanted.find((rate) => hertz(rate) === from) ?? wanted[0] };
  return demands.rateRange ? withinRange(from, demands, before) : carried(from, before.wrap.encoding);
}

/** The sample rate of the result. */
export const rate = station({
  id: 'rate',
  title: 'Rate',
  wish,
  needs,
  settle({ facts, demands }, wished: v.InferOutput<typeof wish> | undefined, before): SettledStation<RatePlan> {
    const from = facts.sampleRate;
    const chosen = automaticRate(from, demands, before);
    const exact = wished?.sampleRate ?? chosen.rate;
    const to = hertz(exact);
    const quality = wished?.quality ?? 'standard';
    if (Math.max(from / to, to / from) > MAX_RATIO) {
      throw new InputError(
        'bad-setting',
        `Rate: ${formatRate(to)} is too far from the source's ${formatRate(from)}; choose a rate nearer to it.`,
      );
    }
    if (!carriesRate(writableEncoding(before.wrap.encoding), to)) {
      throw new InputError(
        'bad-setting',
        `Rate: ${encodingTitle(before.wrap.encoding)} cannot carry ${formatRate(to)}; ${formatRate(hertz(carried(to, before.wrap.encoding).rate))} is the nearest that it can.`,
      );
    }
    const asks = demands.sampleRates || demands.rateRange;
    const kept = `Kept from the source${asks ? '; the sheet accepts it' : ': the sheet does not ask for one'}.`;
    const lost = to < from ? ` Nothing above ${formatRate(to / 2)} survives.` : '';
    const given = typeof exact === 'string' ? FRACTION.exec(exact) : null;
    const fraction = given
      ? ` It is ${formatRate(Number(given[1]))} / ${formatCount(Number(given[2]))}; a file states ${formatRate(Math.round(to))}.`
      : '';
    const why =
      wished?.sampleRate !== undefined
        ? BY_HAND + fraction + lost
        : to === from
          ? kept
          : (chosen.because ?? bySheet(formatRate(to))) + fraction + lost;
    const draft = quality === 'draft' && to !== from;
    return {
      plan: { from, to, exact, quality, frames: before.cut.end - before.cut.start },
      byHand: wished !== undefined,
      figure: `${formatRate(to)}${draft ? ' draft' : ''}`,
      why: draft ? why + draftNote : why,
    };
  },
  obstacles(_, { to }, { channels, wrap }) {
    const text = bitRateTrouble(wrap, to, channels.matrix.length);
    return text === null ? [] : [text];
  },
  steps: ({ from, exact, quality, frames }, { channels }) => [
    {
      start() {
        const wish = { quality: QUALITIES[quality], frames };
        const resamplers = Array.from({ length: channels }, () => new Resampler(from, exact, wish));
        return {
          push: (block) => [resamplers.map((resampler, channel) => resampler.push(block[channel]))],
          finish: () => [resamplers.map((resampler) => resampler.finish())],
        };
      },
    },
  ],
  formatAfter: ({ to }, format) => ({ ...format, sampleRate: to }),
  cameFrom: (frame, { from, to }) => (frame * from) / to,
  alternatives(_, { facts, demands: { sampleRates, rateRange } }) {
    const { least = 0, most = Number.POSITIVE_INFINITY } = rateRange?.value ?? {};
    const highest = Math.max(facts.sampleRate, least);
    const rates = sampleRates?.value ?? [...USUAL_RATES, facts.sampleRate];
    return [...new Set(rates)]
      .filter((rate) => hertz(rate) >= least && hertz(rate) <= Math.min(most, highest))
      .sort((a, b) => hertz(b) - hertz(a))
      .map((rate) => ({ label: formatRate(hertz(rate)), wish: { sampleRate: rate } }));
  },
  isAskedFor({ exact, to }, { sampleRates, rateRange }) {
    const { least = 0, most = Number.POSITIVE_INFINITY } = rateRange?.value ?? {};
    return isAmong(sampleRates, exact) && to >= least && to <= most;
  },
});
