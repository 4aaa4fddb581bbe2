import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { formatLength, formatSeconds } from '../../words/index.ts';
import { narrowRange } from './narrow.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const seconds = v.pipe(v.number(), v.minValue(0.001), v.maxValue(86_400));

const schema = v.strictObject({
  ...common,
  kind: v.literal('duration'),
  /** Seconds. */
  least: v.optional(inForm(seconds, { label: 'At least', unit: 's' })),
  most: v.optional(inForm(seconds, { label: 'At most', unit: 's', usual: 4 })),
});

/** How long the sound may be, in seconds. */
export const duration: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'duration',
  scope: 'file',
  station: 'cut',
  isOfWhole: true,
  schema,
  title: 'duration',
  wanted: ({ least, most }) =>
    [...(least ? [`at least ${formatSeconds(least)}`] : []), ...(most ? [`at most ${formatSeconds(most)}`] : [])].join(
      ', ',
    ),
  narrow: narrowRange,
  demands: ({ least, most }) => ({ seconds: { least: least ?? 0, most: most ?? null } }),
  check({ least = 0, most = Number.POSITIVE_INFINITY }, { facts }) {
    const found = formatLength(facts.frames, facts.sampleRate);
    const length = facts.frames / facts.sampleRate;
    if (length > most) return { meets: false, found, mend: `cut ${formatSeconds(length - most)}` };
    if (length < least) return { meets: false, found, mend: `add ${formatSeconds(least - length)} of silence` };
    return { meets: true, found };
  },
};
