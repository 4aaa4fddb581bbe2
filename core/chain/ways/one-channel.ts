import { formatChannels } from '../../words/index.ts';
import type { KindOfWay } from './way.ts';

/** Mono, where the sheet takes it too. */
export const oneChannel: KindOfWay = {
  title: 'Mix to one channel',
  forClip({ demands, chain }) {
    const count = chain.stations.channels.plan.matrix.length;
    if (count === 1 || !demands.channelCounts?.value.includes(1)) return [];
    return [
      {
        station: 'channels',
        wish: { mode: 'mix' },
        label: `${formatChannels(1)} instead of ${formatChannels(count)}`,
      },
    ];
  },
};
