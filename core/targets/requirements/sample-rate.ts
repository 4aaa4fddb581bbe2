import * as v from 'valibot';
import { LARGEST_RATE } from '../../audio/index.ts';
import { inForm, within } from '../../forms/index.ts';
import { FRACTION, hertz, type Rate } from '../../numbers/index.ts';
import { formatChoice, formatRate } from '../../words/index.ts';
import { narrowRates } from './narrow.ts';
import { common, type FileRequirementKind, notStated } from './requirement.ts';

const RATES = { least: 100, most: LARGEST_RATE };
const hz = within(RATES);
const fraction = v.pipe(
  v.string(),
  v.regex(FRACTION, 'a fraction is written as 16000000/1020'),
  v.check(
    (rate) => hertz(rate) >= RATES.least && hertz(rate) <= RATES.most,
    `it must be a rate from ${RATES.least} to ${RATES.most} Hz`,
  ),
);

const schema = v.pipe(
  v.strictObject({
    ...common,
    kind: v.literal('sample-rate'),
    /** Hz, or an exact fraction such as "16000000/1020"; the preferred one first. */
    anyOf: v.optional(
      inForm(v.pipe(v.array(v.union([hz, fraction])), v.minLength(1)), {
        label: 'One of',
        unit: 'Hz',
        usual: [16_000],
      }),
    ),
    /** Hz: any in between. */
    least: v.optional(inForm(hz, { label: 'Or at least', unit: 'Hz' })),
    most: v.optional(inForm(hz, { label: 'and at most', unit: 'Hz' })),
  }),
  v.check(
    ({ anyOf, least, most }) => (anyOf === undefined) !== (least === undefined && most === undefined),
    'a sample rate is either one of several, or between a lowest and a highest',
  ),
  v.check(({ least, most }) => !(least && most && least > most), 'the lowest rate is above the highest'),
);

/** A file's header holds whole numbers of Hz. */
const stated = (rate: Rate) => Math.round(hertz(rate));

const rangeWords = (least: number | undefined, most: number | undefined) =>
  [...(least ? [`${formatRate(least)} or more`] : []), ...(most ? [`${formatRate(most)} or less`] : [])].join(', ');

/** The sample rate: one of a set, an exact fraction, or a range. */
export const sampleRate: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'sample-rate',
  scope: 'file',
  station: 'rate',
  schema,
  title: 'sample rate',
  wanted: ({ anyOf, least, most }) =>
    anyOf ? formatChoice(anyOf.map((rate) => formatRate(hertz(rate)))) : rangeWords(least, most),
  narrow: narrowRates,
  demands: ({ anyOf, least, most }) =>
    anyOf ? { sampleRates: anyOf } : { rateRange: { least: least ?? 1000, most: most ?? 192_000 } },
  check({ anyOf, least = 0, most = Number.POSITIVE_INFINITY }, { facts }) {
    const found = formatRate(facts.sampleRate);
    if (facts.certainty === 'assumed') return notStated(found);
    if (anyOf) {
      return {
        meets: anyOf.some((rate) => stated(rate) === facts.sampleRate),
        found,
        mend: `resample it to ${formatRate(hertz(anyOf[0]))}`,
      };
    }
    const nearest = Math.min(most, Math.max(least, facts.sampleRate));
    return { meets: nearest === facts.sampleRate, found, mend: `resample it to ${formatRate(nearest)}` };
  },
};
