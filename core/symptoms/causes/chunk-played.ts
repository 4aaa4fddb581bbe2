import { SHORTEST_HEADER } from '../../standin/index.ts';
import { formatCount } from '../../words/index.ts';
import type { Cause } from '../cause.ts';

export const chunkPlayed: Cause = {
  id: 'chunk-played',
  title: 'Chunks or tags beside its sound are played as sound',
  tellApart: 'A burst at the start or after the end; without tags it is gone.',
  try({ truth, taken, player, stated }) {
    if (!truth?.plain || !stated || truth.how !== 'stated') return null;
    // A device that looks for nothing begins after the shortest header of a WAV file.
    const inFront = taken ? 0 : truth.inFront - SHORTEST_HEADER;
    const { behind } = truth;
    const isPlayed = taken !== null || player['extra-chunks'] === 'plays';
    if (!isPlayed || (inFront <= 0 && behind <= 1)) return null;
    const what = [...stated.extras.map(({ name }) => name), ...(stated.tags.length ? ['tags'] : [])].join(', ');
    return {
      signs: { ...(inFront > 0 ? { 'click-at-start': 0.9 } : {}), ...(behind > 1 ? { 'gap-at-end': 0.9 } : {}) },
      seen: `${what || 'Something'} stands ${[...(inFront > 0 ? [`before the sound (${formatCount(inFront)} bytes)`] : []), ...(behind > 1 ? [`after it (${formatCount(behind)} bytes)`] : [])].join(' and ')}, and is played with it.`,
      mend: { words: 'write it again without tags and chunks', where: 'job', station: 'wrap', wish: 'automatic' },
    };
  },
};
