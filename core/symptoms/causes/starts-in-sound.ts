import { formatLevel } from '../../words/index.ts';
import type { Cause } from '../cause.ts';
import { mixed, rmsOf } from '../measures.ts';

/** Seconds in which no sound that begins by itself gets loud. */
const ATTACK = 0.001;

export const startsInSound: Cause = {
  id: 'starts-in-sound',
  title: 'It begins in the middle of its sound',
  tellApart: 'It sets in as abruptly everywhere.',
  try({ sound, facts, player }) {
    // What is made to be repeated has no beginning.
    if (!sound || !facts || player['on-the-bar']) return null;
    const samples = mixed(sound);
    const [attack, window] = [ATTACK, 0.02].map((seconds) => Math.ceil(seconds * sound.sampleRate));
    const [first, start, whole] = [rmsOf(samples, 0, attack), rmsOf(samples, 0, window), rmsOf(samples)];
    if (samples.length < 5 * window || start < 0.03 || start < 0.6 * whole || first < 0.6 * start) return null;
    // What begins by itself begins near zero.
    if (Math.abs(samples[0]) < 0.5 * start) return null;
    return {
      signs: { 'start-missing': 0.65, 'click-at-start': 0.5 },
      seen: `Its first millisecond is at ${formatLevel(first)}, all of it at ${formatLevel(whole)}: no sound begins like that by itself.`,
      mend: { words: 'use more of the source, or fade it in', where: 'job', station: 'cut', wish: 'automatic' },
    };
  },
};
