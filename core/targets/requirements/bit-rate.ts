import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { formatBitRate, formatChoice } from '../../words/index.ts';
import { narrowRates } from './narrow.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const bits = v.pipe(v.number(), v.integer(), v.minValue(1000), v.maxValue(100_000_000));

const schema = v.strictObject({
  ...common,
  kind: v.literal('bit-rate'),
  /** Bits per second, the preferred one first. */
  anyOf: v.optional(
    inForm(v.pipe(v.array(bits), v.minLength(1)), { label: 'One of', unit: 'bit/s', usual: [192_000] }),
  ),
  least: v.optional(inForm(bits, { label: 'At least', unit: 'bit/s' })),
  most: v.optional(inForm(bits, { label: 'At most', unit: 'bit/s' })),
  /** True: the same in every frame. */
  constant: v.optional(inForm(v.boolean(), { label: 'Constant', usual: true })),
  /** True: as many as each moment needs. */
  variable: v.optional(inForm(v.boolean(), { label: 'Variable' })),
});

/** Encoders that keep a rate on the average miss it by a little; a part of the rate wanted. */
const AVERAGE = 0.05;

/** Bits of encoded sound per second, and whether that stays the same. */
export const bitRate: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'bit-rate',
  scope: 'file',
  station: 'wrap',
  schema,
  title: 'bit rate',
  wanted: ({ anyOf, least, most, constant, variable }) =>
    [
      ...(anyOf ? [formatChoice(anyOf.map(formatBitRate))] : []),
      ...(least ? [`${formatBitRate(least)} or more`] : []),
      ...(most ? [`${formatBitRate(most)} or less`] : []),
      ...(constant ? ['constant'] : []),
      ...(variable ? ['variable'] : []),
    ].join(', '),
  narrow(a, b) {
    const both = narrowRates(a, b);
    const [constant, variable] = [a.constant || b.constant, a.variable || b.variable];
    if (!both || (constant && variable)) return null;
    return { ...both, ...(constant ? { constant } : {}), ...(variable ? { variable } : {}) };
  },
  demands: ({ anyOf, least, most, constant }) => ({
    bitRate: {
      anyOf: anyOf ?? null,
      least: least ?? 0,
      most: most ?? Number.POSITIVE_INFINITY,
      constant: constant ?? false,
    },
  }),
  check({ anyOf, least = 0, most = Number.POSITIVE_INFINITY, constant, variable }, { facts }) {
    const { bitRate: rate, bitRateMode } = facts;
    const slack = bitRateMode === 'constant' ? 0 : AVERAGE;
    const near = (wanted: number) => Math.abs(rate - wanted) <= wanted * slack + 500;
    const isIn = rate >= least * (1 - slack) - 500 && rate <= most * (1 + slack) + 500;
    const isOne = !anyOf || anyOf.some(near);
    const isSteady = (!constant || bitRateMode === 'constant') && (!variable || bitRateMode === 'variable');
    const goal = anyOf?.[0] ?? Math.min(most, Math.max(least, rate));
    return {
      meets: isIn && isOne && isSteady,
      found: `${formatBitRate(rate)}${bitRateMode === 'unknown' ? '' : `, ${bitRateMode}`}`,
      mend:
        bitRateMode === 'variable' && !constant && rate < goal
          ? `encode it at ${formatBitRate(goal)}; silence and simple sounds still take less`
          : `encode it at ${formatBitRate(goal)}${constant ? ', constant' : variable ? ', variable' : ''}`,
    };
  },
};
