import * as v from 'valibot';
import { formatCount } from '../../words/index.ts';
import { common, type SetRequirementKind } from './requirement.ts';

const count = v.optional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(100_000)));

const schema = v.pipe(
  v.strictObject({ ...common, kind: v.literal('file-count'), least: count, most: count }),
  v.check(({ least, most }) => Boolean(least || most), 'give a least or a greatest number of files'),
);

const files = (n: number) => `${formatCount(n)} ${n === 1 ? 'file' : 'files'}`;

/** How many sounds the device takes. */
export const fileCount: SetRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'file-count',
  scope: 'set',
  usual: { key: 'file-count', kind: 'file-count', most: 8 },
  fields: [
    { key: 'least', label: 'At least', unit: 'files', type: 'number', optional: true },
    { key: 'most', label: 'At most', unit: 'files', type: 'number', optional: true },
  ],
  schema,
  title: 'number of files',
  wanted: ({ least, most }) =>
    [...(least ? [`at least ${files(least)}`] : []), ...(most ? [`at most ${files(most)}`] : [])].join(', '),
  covers: ({ most = Number.POSITIVE_INFINITY }, implied) => most <= (implied.most ?? Number.POSITIVE_INFINITY),
  check({ least = 0, most = Number.POSITIVE_INFINITY }, { members: { length } }) {
    const mend = length > most ? `remove ${files(length - most)}` : `add ${files(least - length)}`;
    return { meets: length >= least && length <= most, found: files(length), mend };
  },
};
