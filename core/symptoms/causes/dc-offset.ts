import { formatLevel } from '../../words/index.ts';
import type { Cause } from '../cause.ts';

export const dcOffset: Cause = {
  id: 'dc-offset',
  title: 'Its zero is not in the middle',
  tellApart: 'A click at the start and at the end, whatever the sound is.',
  try({ facts }) {
    const offset = Math.max(...(facts?.levels.dcOffset ?? [0]).map(Math.abs));
    if (!facts || offset < 0.04) return null;
    return {
      signs: { 'click-at-start': 0.8, 'gap-at-end': 0.4 },
      seen: `Its mean is ${formatLevel(offset)} away from zero.`,
      mend: { words: 'take the DC offset off', where: 'job', station: 'level', wish: { removeDc: true } },
    };
  },
};
