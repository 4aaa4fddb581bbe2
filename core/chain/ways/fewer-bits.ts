import { findEncoding } from '../../encodings/index.ts';
import { encodingTitle } from '../../facts/index.ts';
import { formatBitRate } from '../../words/index.ts';
import { possibleBitRates } from '../stations/wrap.ts';
import type { KindOfWay } from './way.ts';

const bitsOf = (id: string): number => findEncoding(id)?.bitDepth ?? 0;

/** Other encodings that the sheet takes, with fewer bits; and other bit rates that it takes. */
export const fewerBits: KindOfWay = {
  title: 'Take fewer bits',
  forClip({ demands, chain }) {
    const { rate, channels, wrap } = chain.stations;
    const { encoding, compressed } = wrap.plan;
    const possible = possibleBitRates(wrap.plan, rate.plan.to, channels.plan.matrix.length);
    if (compressed && possible) {
      const { anyOf = null, least = 0 } = demands.bitRate?.value ?? {};
      // A bit rate that there is not is changed to the nearest ones, one that takes too much to lower ones.
      const usable = possible.includes(compressed.bitRate)
        ? possible.filter((rate) => rate < compressed.bitRate).reverse()
        : possible.toSorted((a, b) => Math.abs(a - compressed.bitRate) - Math.abs(b - compressed.bitRate));
      return usable
        .filter((rate) => rate >= least && (!anyOf || anyOf.includes(rate)))
        .map((bitRate) => ({
          station: 'wrap',
          wish: { bitRate },
          label: `${formatBitRate(bitRate)} instead of ${formatBitRate(compressed.bitRate)}`,
        }));
    }
    return (demands.encodings?.value ?? [])
      .filter((id) => bitsOf(id) > 0 && bitsOf(id) < bitsOf(encoding))
      .map((id) => ({ station: 'wrap', wish: { encoding: id }, label: encodingTitle(id) }));
  },
};
