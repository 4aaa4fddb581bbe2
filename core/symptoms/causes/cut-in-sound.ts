import { formatLevel } from '../../words/index.ts';
import type { Cause } from '../cause.ts';
import { mixed, rmsOf } from '../measures.ts';

export const cutInSound: Cause = {
  id: 'cut-in-sound',
  title: 'It ends in the middle of its sound',
  tellApart: 'It breaks off at the same place everywhere.',
  try({ sound, facts, player }) {
    // What is made to be repeated has no end.
    if (!sound || !facts || player['on-the-bar']) return null;
    const samples = mixed(sound);
    const window = Math.round(0.01 * sound.sampleRate);
    const end = rmsOf(samples, samples.length - window);
    const whole = rmsOf(samples);
    if (end < 0.03 || end < 0.6 * whole || samples.length < 10 * window) return null;
    return {
      signs: { 'cut-off': 0.7, 'gap-at-end': 0.3 },
      seen: `Its last 10 ms are at ${formatLevel(end)}, all of it at ${formatLevel(whole)}: no sound ends like that by itself.`,
      mend: { words: 'use more of the source, or fade it out', where: 'job', station: 'cut', wish: 'automatic' },
    };
  },
};
