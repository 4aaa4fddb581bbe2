import * as v from 'valibot';
import { BAR_RANGES, inForm, wholeWithin, within } from '../../forms/index.ts';
import { nearestBars } from '../../numbers/index.ts';
import { formatChoice } from '../../words/index.ts';
import { framesOf, statedOf, type Trait, withFrames } from '../trait.ts';

const schema = v.strictObject({
  /** Numbers of bars. */
  anyOf: inForm(v.pipe(v.array(wholeWithin(BAR_RANGES.count)), v.minLength(1)), {
    label: 'Numbers of bars',
    usual: [1, 2, 4],
  }),
  beats: inForm(wholeWithin(BAR_RANGES.beats), { label: 'Beats in a bar', usual: 4 }),
  tempo: inForm(within(BAR_RANGES.tempo), { label: 'Tempo', unit: 'beats a minute', usual: 120 }),
});

/** Starts every round on the bar: what goes beyond is cut off, what is missing is silence. */
export const onTheBar: Trait<'on-the-bar', v.InferOutput<typeof schema>> = {
  id: 'on-the-bar',
  title: 'Starts again on the bar',
  schema,
  words: ({ anyOf, beats, tempo }) =>
    `starts again after ${formatChoice(anyOf.map(String))} bars of ${beats} beats at ${tempo} a minute, with silence where the sound is shorter`,
  implies: ({ anyOf, beats, tempo }) => [{ kind: 'bars', anyOf, beats, tempo }],
  otherwise: [
    {
      kind: 'bars',
      words: 'starts again on the bar all the same',
      value: ({ anyOf, beats, tempo }) => ({ anyOf, beats, tempo }),
    },
  ],
  needsFrames: true,
  take(bars, taken) {
    const stated = statedOf(taken);
    const frames = framesOf(taken);
    if (!stated || frames === null) return taken;
    const nearest = nearestBars(bars, stated.sampleRate, frames);
    return nearest === frames ? taken : withFrames(taken, nearest);
  },
};
