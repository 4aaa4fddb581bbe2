import * as v from 'valibot';
import { inForm, wholeWithin } from '../../forms/index.ts';
import { leastCommonMultiple } from '../../numbers/index.ts';
import { formatCount } from '../../words/index.ts';
import { narrowRange } from './narrow.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const bytes = wholeWithin({ least: 1, most: 1e12 });

const schema = v.strictObject({
  ...common,
  kind: v.literal('file-size'),
  /** Bytes of the whole file, its header too. */
  least: v.optional(inForm(bytes, { label: 'At least', unit: 'bytes' })),
  most: v.optional(inForm(bytes, { label: 'At most', unit: 'bytes', usual: 64_000 })),
  /** The size divides by this. */
  multipleOf: v.optional(inForm(bytes, { label: 'A multiple of', unit: 'bytes' })),
});

/** How large the file may be. */
export const fileSize: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'file-size',
  scope: 'file',
  station: 'rate',
  isOfWhole: true,
  schema,
  title: 'file size',
  wanted: ({ least, most, multipleOf }) =>
    [
      ...(least ? [`at least ${formatCount(least)} bytes`] : []),
      ...(most ? [`at most ${formatCount(most)} bytes`] : []),
      ...(multipleOf ? [`a multiple of ${formatCount(multipleOf)} bytes`] : []),
    ].join(', '),
  narrow(a, b) {
    const range = narrowRange(a, b);
    const multipleOf = leastCommonMultiple(a.multipleOf ?? 1, b.multipleOf ?? 1);
    if (!range || (range.most !== undefined && Math.floor(range.most / multipleOf) * multipleOf < (range.least ?? 1)))
      return null;
    return { ...range, ...(multipleOf > 1 ? { multipleOf } : {}) };
  },
  demands: ({ least = 1, most, multipleOf = 1 }) => ({
    ...(most === undefined ? {} : { fileBytes: most }),
    ...(least > 1 || multipleOf > 1 ? { fileUnits: { least, multipleOf } } : {}),
  }),
  check({ least = 0, most = Number.POSITIVE_INFINITY, multipleOf = 1 }, { facts, canBeSlower }) {
    const found = `${formatCount(facts.bytes)} bytes`;
    const over = facts.bytes % multipleOf;
    if (facts.bytes > most) {
      const mend = `save ${formatCount(facts.bytes - most)} bytes: cut it shorter${canBeSlower ? ' or lower its rate' : ''}`;
      return { meets: false, found, mend };
    }
    if (facts.bytes < least) {
      return { meets: false, found, mend: `add ${formatCount(least - facts.bytes)} bytes: silence at its end` };
    }
    return {
      meets: over === 0,
      found: over === 0 ? found : `${found}, ${formatCount(over)} over`,
      mend: `make it ${formatCount(over)} bytes shorter or ${formatCount(multipleOf - over)} longer at Ends`,
    };
  },
};
