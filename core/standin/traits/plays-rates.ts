import * as v from 'valibot';
import { inForm, oneOf, within } from '../../forms/index.ts';
import { formatChoice, formatRate } from '../../words/index.ts';
import { othersWords, statedOf, type Trait, unknownTo } from '../trait.ts';

const hz = within({ least: 100, most: 1_000_000 });

/** Refused where nothing is said. */
const OTHERS = { refuses: 'are refused', silent: 'are played as silence' } as const;

const schema = v.pipe(
  v.strictObject({
    anyOf: v.optional(inForm(v.pipe(v.array(hz), v.minLength(1)), { label: 'One of', unit: 'Hz', usual: [44_100] })),
    least: v.optional(inForm(hz, { label: 'At least', unit: 'Hz' })),
    most: v.optional(inForm(hz, { label: 'At most', unit: 'Hz' })),
    others: v.optional(inForm(oneOf(OTHERS), { label: 'Others', usual: 'refuses' })),
  }),
  v.check(
    ({ anyOf, least, most }) => (anyOf === undefined) !== (least === undefined && most === undefined),
    'rates are either some, or those between a lowest and a highest',
  ),
);

type Rates = v.InferOutput<typeof schema>;

const ratesWords = ({ anyOf, least, most }: Rates): string =>
  anyOf
    ? formatChoice(anyOf.map(formatRate))
    : [...(least ? [`${formatRate(least)} or more`] : []), ...(most ? [`${formatRate(most)} or less`] : [])].join(', ');

/** The rates that it plays as they are stated, and what it does with others. */
export const playsRates: Trait<'plays-rates', Rates> = {
  id: 'plays-rates',
  title: 'Rates that it plays',
  schema,
  words: (rates) =>
    `plays ${ratesWords(rates)} as stated and ${othersWords(rates.others ?? 'refuses', 'other rates', '')}`,
  implies: ({ others: _, ...rates }, { reads }) => (reads === 'bare' ? [] : [{ kind: 'sample-rate', ...rates }]),
  otherwise: Object.entries({ refuses: 'refuses the file', silent: 'plays silence' }).map(([others, words]) => ({
    kind: 'sample-rate',
    words,
    decides: 'others',
    value: ({ anyOf, least, most }) => ({
      ...(anyOf ? { anyOf } : {}),
      ...(least ? { least } : {}),
      ...(most ? { most } : {}),
      ...(others === 'silent' ? { others } : {}),
    }),
  })),
  take(rates, taken) {
    const rate = statedOf(taken)?.sampleRate;
    if (taken.kind === 'bare') return taken;
    const { anyOf, least = 0, most = Number.POSITIVE_INFINITY } = rates;
    if (rate === undefined || (anyOf ? anyOf.includes(rate) : rate >= least && rate <= most)) return taken;
    const reason = `It is at ${formatRate(rate)}; the device plays ${ratesWords(rates)}.`;
    return unknownTo(rates.others ?? 'refuses', taken, reason);
  },
};
