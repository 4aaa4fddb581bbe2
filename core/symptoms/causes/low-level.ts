import { formatLevel } from '../../words/index.ts';
import type { Cause } from '../cause.ts';

export const lowLevel: Cause = {
  id: 'low-level',
  title: 'It is recorded too softly',
  tellApart: 'Other sounds on the same device are louder.',
  try({ facts }) {
    if (!facts) return null;
    const peak = Math.max(...facts.levels.peak);
    if (peak >= 0.18 || peak < 1e-4) return null;
    return {
      signs: { 'too-quiet': 0.95, silence: peak < 0.01 ? 0.7 : 0 },
      seen: `Its highest peak is at ${formatLevel(peak)}; there is room up to full scale.`,
      mend: { words: 'raise its level', where: 'job', station: 'level', wish: 'automatic' },
    };
  },
};
