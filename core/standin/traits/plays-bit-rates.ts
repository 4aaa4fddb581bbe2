import * as v from 'valibot';
import { inForm, within } from '../../forms/index.ts';
import { formatBitRate, formatChoice } from '../../words/index.ts';
import { refuses, statedOf, type Trait } from '../trait.ts';

const schema = v.strictObject({
  /** Bit/s. */
  anyOf: inForm(v.pipe(v.array(within({ least: 1000, most: 10_000_000 })), v.minLength(1)), {
    label: 'One of',
    unit: 'bit/s',
    usual: [320_000],
  }),
  /** True: each second has as many bits as the next. */
  constant: inForm(v.boolean(), { label: 'Constant', usual: true }),
});

type BitRates = v.InferOutput<typeof schema>;

const ratesWords = ({ anyOf, constant }: BitRates) =>
  `${constant ? 'constant ' : ''}${formatChoice(anyOf.map(formatBitRate))}`;

/** The bit rates of compressed sound that it plays; it refuses others. */
export const playsBitRates: Trait<'plays-bit-rates', BitRates> = {
  id: 'plays-bit-rates',
  title: 'Bit rates that it plays',
  schema,
  words: (rates) => `plays ${ratesWords(rates)} and refuses other bit rates`,
  implies: ({ anyOf, constant }) => [{ kind: 'bit-rate', anyOf, ...(constant ? { constant } : {}) }],
  otherwise: [
    {
      kind: 'bit-rate',
      words: 'refuses the file',
      value: ({ anyOf, constant = false }) => ({ anyOf, constant }),
    },
  ],
  trouble: {
    id: 'wrong-bit-rate',
    title: 'It has a bit rate that the device does not play',
    tellApart: 'Others of the right bit rate play.',
    remedy: { words: 'encode it at the bit rate of the sheet', where: 'job', station: 'wrap', wish: 'automatic' },
  },
  take(rates, taken) {
    const stated = statedOf(taken);
    if (taken.kind !== 'decoded' || !stated || stated.bitRate === null) return taken;
    const { bitRate, bitRateMode } = stated;
    const isSteady = !rates.constant || bitRateMode !== 'variable';
    if (isSteady && rates.anyOf.some((one) => Math.abs(one - bitRate) < 500)) return taken;
    const mode = bitRateMode === 'unknown' ? '' : `${bitRateMode} `;
    return refuses(`Its bit rate is ${mode}${formatBitRate(bitRate)}; the device plays ${ratesWords(rates)}.`);
  },
};
