import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { formatCount } from '../../words/index.ts';
import { narrowRange } from './narrow.ts';
import { common, type SetRequirementKind } from './requirement.ts';

const count = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(100_000));

const schema = v.pipe(
  v.strictObject({
    ...common,
    kind: v.literal('file-count'),
    least: v.optional(inForm(count, { label: 'At least', unit: 'files' })),
    most: v.optional(inForm(count, { label: 'At most', unit: 'files', usual: 8 })),
  }),
  v.check(({ least, most }) => Boolean(least || most), 'give a least or a greatest number of files'),
);

const files = (n: number) => `${formatCount(n)} ${n === 1 ? 'file' : 'files'}`;

/** How many sounds the device takes. */
export const fileCount: SetRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'file-count',
  scope: 'set',
  schema,
  title: 'number of files',
  wanted: ({ least, most }) =>
    [...(least ? [`at least ${files(least)}`] : []), ...(most ? [`at most ${files(most)}`] : [])].join(', '),
  narrow: narrowRange,
  check({ least = 0, most = Number.POSITIVE_INFINITY }, { members: { length } }) {
    const mend = length > most ? `remove ${files(length - most)}` : `add ${files(least - length)}`;
    return { meets: length >= least && length <= most, found: files(length), mend };
  },
};
