import { inForm, within } from '../../forms/index.ts';
import { formatRate } from '../../words/index.ts';
import type { Trait } from '../trait.ts';

/** Hz at which the device plays whatever a file states. */
export const playsAt: Trait<'plays-at', number> = {
  id: 'plays-at',
  title: 'Rate at which it plays',
  schema: inForm(within({ least: 1, most: 1_000_000 }), { label: 'Whatever is stated', unit: 'Hz', usual: 8000 }),
  words: (hz) => `plays at ${formatRate(hz)} whatever is stated`,
  implies: (hz) => [{ kind: 'sample-rate', anyOf: [hz] }],
  take(sampleRate, taken) {
    if (taken.kind === 'bare') return taken;
    if (taken.kind === 'samples') return { ...taken, sound: { ...taken.sound, sampleRate } };
    const { stream } = taken;
    return { ...taken, stream: { ...stream, stated: { ...stream.stated, sampleRate } } };
  },
};
