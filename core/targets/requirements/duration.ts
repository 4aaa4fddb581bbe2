import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { formatLength, formatSeconds } from '../../words/index.ts';
import { narrowRange, rangeOfBoth } from './narrow.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const seconds = v.pipe(v.number(), v.minValue(0.001), v.maxValue(86_400));

const schema = v.strictObject({
  ...common,
  kind: v.literal('duration'),
  /** Seconds. */
  least: v.optional(inForm(seconds, { label: 'At least', unit: 's' })),
  most: v.optional(inForm(seconds, { label: 'At most', unit: 's', usual: 4 })),
  /** Of a sound with more than one channel; left out: the same. */
  mostOfStereo: v.optional(inForm(seconds, { label: 'If it is stereo, at most', unit: 's' })),
});

/** How long the sound may be, in seconds. */
export const duration: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'duration',
  scope: 'file',
  station: 'cut',
  isOfWhole: true,
  schema,
  title: 'duration',
  wanted: ({ least, most, mostOfStereo }) =>
    [
      ...(least ? [`at least ${formatSeconds(least)}`] : []),
      ...(most ? [`at most ${formatSeconds(most)}`] : []),
      ...(mostOfStereo ? [`at most ${formatSeconds(mostOfStereo)} if it is stereo`] : []),
    ].join(', '),
  narrow(a, b) {
    const range = narrowRange(a, b);
    const { most: mostOfStereo } = rangeOfBoth({ most: a.mostOfStereo }, { most: b.mostOfStereo }) ?? {};
    return range && { ...range, ...(mostOfStereo === undefined ? {} : { mostOfStereo }) };
  },
  demands: ({ least, most, mostOfStereo }) => ({
    seconds: { least: least ?? 0, most: most ?? null, mostOfStereo: mostOfStereo ?? null },
  }),
  check(wanted, { facts }) {
    const { least = 0, mostOfStereo = Number.POSITIVE_INFINITY } = wanted;
    const { most = Number.POSITIVE_INFINITY } =
      rangeOfBoth({ most: wanted.most }, { most: facts.channels > 1 ? mostOfStereo : undefined }) ?? {};
    const found = formatLength(facts.frames, facts.sampleRate);
    const length = facts.frames / facts.sampleRate;
    if (length > most) return { meets: false, found, mend: `cut ${formatSeconds(length - most)}` };
    if (length < least) return { meets: false, found, mend: `add ${formatSeconds(least - length)} of silence` };
    return { meets: true, found };
  },
};
