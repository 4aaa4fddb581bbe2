import { outContainers } from '../../containers/index.ts';
import { fileTooLarge } from '../stations/ends.ts';
import type { KindOfWay } from './way.ts';

/** For a file that its container has no room for: another one of the same kind that has. */
export const largerContainer: KindOfWay = {
  title: 'Take a larger container',
  forClip({ demands, chain: { stations } }) {
    const { ends, channels, cut, rate, wrap } = stations;
    const plans = { channels: channels.plan, cut: cut.plan, rate: rate.plan, wrap: wrap.plan };
    if (fileTooLarge(ends.plan.frames, plans) === null) return [];
    const { container } = wrap.plan;
    return outContainers()
      .filter(({ id, enlarges }) => enlarges === container && (demands.containers?.value.includes(id) ?? true))
      .map(({ id, title }) => ({
        station: 'wrap',
        wish: { container: id },
        label: `${title}, whose sizes are 64-bit`,
        isExact: true,
      }));
  },
};
