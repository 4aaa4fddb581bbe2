import * as v from 'valibot';
import { BAR_RANGES, inForm, wholeWithin, within } from '../../forms/index.ts';
import { nearestBars } from '../../numbers/index.ts';
import { formatChoice, formatLength } from '../../words/index.ts';
import { narrowChoices } from './narrow.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('bars'),
  /** Numbers of bars, any of which will do. */
  anyOf: inForm(v.pipe(v.array(wholeWithin(BAR_RANGES.count)), v.minLength(1)), {
    label: 'Numbers of bars',
    usual: [1, 2, 4],
  }),
  /** In a bar. */
  beats: inForm(wholeWithin(BAR_RANGES.beats), { label: 'Beats in a bar', usual: 4 }),
  /** Beats a minute. */
  tempo: inForm(within(BAR_RANGES.tempo), { label: 'Tempo', unit: 'beats a minute', usual: 120 }),
});

/** The length in whole bars at a tempo, exact to the frame. */
export const bars: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'bars',
  scope: 'file',
  station: 'ends',
  isOfWhole: true,
  schema,
  title: 'bars',
  wanted: ({ anyOf, beats, tempo }) =>
    `exactly ${formatChoice(anyOf.map(String))} bars of ${beats} beats at ${tempo} a minute`,
  narrow: (a, b) => (a.beats === b.beats && a.tempo === b.tempo ? narrowChoices(a, b) : null),
  demands: ({ anyOf, beats, tempo }) => ({ bars: { anyOf, beats, tempo } }),
  check(wanted, { facts: { frames, sampleRate } }) {
    const nearest = nearestBars(wanted, sampleRate, frames);
    return {
      meets: nearest === frames,
      found: formatLength(frames, sampleRate),
      mend: `make it ${formatLength(nearest, sampleRate)}`,
    };
  },
};
