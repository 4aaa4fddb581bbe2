import * as v from 'valibot';
import { inForm, within } from '../../forms/index.ts';
import { formatSeconds } from '../../words/index.ts';
import type { Trait } from '../trait.ts';

const schema = v.strictObject({
  seconds: inForm(within({ least: 0.001, most: 60 }), { label: 'It needs to lock on', unit: 's', usual: 0.5 }),
});

/** A device that follows a stream hears nothing of its beginning: it has to lock on to it first (common practice, no source). */
export const locks: Trait<'locks', v.InferOutput<typeof schema>> = {
  id: 'locks',
  title: 'What it loses at the start',
  schema,
  words: ({ seconds }) => `loses the first ${formatSeconds(seconds)} while it locks on`,
  steps: () => [
    {
      at: ['start-missing'],
      words: 'It loses the beginning while it locks on: put silence in front.',
    },
  ],
  hear({ seconds }, { sampleRate }) {
    let lost = Math.round(seconds * sampleRate);
    return (block) => {
      const gone = Math.min(lost, block[0]?.length ?? 0);
      lost -= gone;
      return gone ? block.map((samples) => samples.subarray(gone)) : block;
    };
  },
};
