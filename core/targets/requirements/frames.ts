import * as v from 'valibot';
import { LARGEST_FILE } from '../../audio/index.ts';
import { inForm, wholeWithin } from '../../forms/index.ts';
import { leastCommonMultiple } from '../../numbers/index.ts';
import { formatCount, formatLength, formatSeconds } from '../../words/index.ts';
import { rangeOfBoth } from './narrow.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const count = wholeWithin({ least: 1, most: LARGEST_FILE });

const schema = v.strictObject({
  ...common,
  kind: v.literal('frames'),
  /** The count divides by this. */
  multipleOf: v.optional(inForm(count, { label: 'Blocks of', unit: 'frames', usual: 240 })),
  least: v.optional(inForm(count, { label: 'At least', unit: 'frames' })),
  most: v.optional(inForm(count, { label: 'At most', unit: 'frames' })),
});

/** The length in frames: blocks, least, most. */
export const frames: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'frames',
  scope: 'file',
  station: 'ends',
  isOfWhole: true,
  schema,
  title: 'length',
  wanted({ multipleOf, least, most }) {
    const range =
      least && most
        ? `${formatCount(least)} to ${formatCount(most)} frames`
        : most
          ? `at most ${formatCount(most)} frames`
          : least
            ? `at least ${formatCount(least)} frames`
            : '';
    const block = multipleOf ? `${range ? 'in ' : ''}blocks of ${formatCount(multipleOf)}` : '';
    return [range, block].filter(Boolean).join(', ');
  },
  narrow(a, b) {
    const multipleOf = leastCommonMultiple(a.multipleOf ?? 1, b.multipleOf ?? 1);
    const range = rangeOfBoth(a, b);
    // A file of frames has at least one block of them.
    const least = Math.ceil(Math.max(1, range?.least ?? 1) / multipleOf) * multipleOf;
    if (!range || least > (range.most ?? LARGEST_FILE)) return null;
    return { ...a, ...range, ...(multipleOf > 1 ? { multipleOf } : {}), ...(least > 1 ? { least } : {}) };
  },
  demands: ({ multipleOf = 1, least = 1, most }) => ({ frames: { multipleOf, least, most: most ?? null } }),
  check({ multipleOf = 1, least = 1, most }, { facts }) {
    const found = formatLength(facts.frames, facts.sampleRate);
    const seconds = (n: number) => formatSeconds(n / facts.sampleRate);
    if (most !== undefined && facts.frames > most) {
      return { meets: false, found, mend: `cut ${seconds(facts.frames - most)}` };
    }
    if (facts.frames < least) return { meets: false, found, mend: `add ${seconds(least - facts.frames)} of silence` };
    const over = facts.frames % multipleOf;
    if (over === 0) return { meets: true, found };
    return {
      meets: false,
      found: `${found}, ${formatCount(over)} over a block`,
      mend: `trim ${formatCount(over)} frames or pad ${formatCount(multipleOf - over)}`,
    };
  },
};
