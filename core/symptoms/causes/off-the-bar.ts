import { formatCount } from '../../words/index.ts';
import type { Cause } from '../cause.ts';

export const offTheBar: Cause = {
  id: 'off-the-bar',
  title: 'Its length is no whole number of bars',
  tellApart: 'It drifts from the beat, round by round.',
  try({ player, facts, played }) {
    const length = played?.channels[0]?.length;
    if (!player['on-the-bar'] || !facts || length === undefined || length === facts.frames) return null;
    const over = facts.frames - length;
    const ms = ((1000 * Math.abs(over)) / facts.sampleRate).toFixed(2);
    return {
      signs: { 'gap-at-end': 0.9, ...(over > facts.sampleRate / 10 ? { 'cut-off': 0.7 } : {}) },
      seen: `${formatCount(facts.frames)} frames are ${formatCount(Math.abs(over))} too ${over > 0 ? 'many' : 'few'} for the bar: ${ms} ms of drift in each round.`,
      mend: { words: 'make it exactly as long as its bars', where: 'job', station: 'ends', wish: 'automatic' },
    };
  },
};
