import type * as v from 'valibot';
import { inForm, oneOf } from '../../forms/index.ts';
import type { Trait } from '../trait.ts';

const WORDS = {
  stops: 'stops a sound when its pad or key is let go',
  'plays-on': 'plays a sound to its end, however soon its pad or key is let go',
} as const;

const schema = inForm(oneOf(WORDS), { label: 'It', usual: 'stops' });

/** What becomes of a sound when the finger leaves. */
export const letGo: Trait<'let-go', v.InferOutput<typeof schema>> = {
  id: 'let-go',
  title: 'When it is let go',
  schema,
  words: (value) => WORDS[value],
  steps: (value) =>
    value === 'stops'
      ? [
          {
            at: ['stops-when-let-go', 'cut-off'],
            words: 'Hold it down until the sound is over, or set the device to play each sound to its end.',
          },
        ]
      : [],
  moment: (value, { letGoAfter }) => (value === 'stops' ? { seconds: letGoAfter } : {}),
};
