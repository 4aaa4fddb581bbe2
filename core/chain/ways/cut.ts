import { formatCount, formatSeconds } from '../../words/index.ts';
import { type KindOfWay, type Member, together } from './way.ts';

/**
 * The longest that any clip may be so that all of them fit: longer ones give, shorter ones keep what they have.
 * @returns seconds
 */
export function evenLimit(clips: readonly Pick<Member, 'seconds' | 'bytes'>[], budget: number): number {
  const rising = [...clips].sort((a, b) => a.seconds - b.seconds);
  let left = budget;
  // Bytes a second that the clips which are still longer than the limit take together.
  let rate = rising.reduce((sum, { bytes, seconds }) => sum + bytes / seconds, 0);
  for (const { bytes, seconds } of rising) {
    if (left / rate <= seconds) return left / rate;
    left -= bytes;
    rate -= bytes / seconds;
  }
  return Number.POSITIVE_INFINITY;
}

/** Nothing shorter is worth being offered, seconds. */
const LEAST = 0.01;

/** A shorter cut: of one clip as much as is too long, of a set the longest clips. */
export const shorterCut: KindOfWay = {
  title: 'Cut',
  forClip({ facts, chain: { stations } }) {
    const { limit, frames, front, back, isOpen } = stations.ends.plan;
    if (!limit || frames <= limit.frames || isOpen) return [];
    const { start, end } = stations.cut.plan;
    const { from, to } = stations.rate.plan;
    // The longest cut whose frames at the new rate do not exceed the greatest length.
    const room = Math.max(1, limit.frames - front.frames - back.frames);
    const length = Math.max(1, Math.floor((room * from) / to));
    const over = formatSeconds((end - start - length) / facts.sampleRate);
    return [
      { station: 'cut', wish: { start, end: start + length }, label: `Cut ${over} off the end`, isExact: true },
      ...(end > length
        ? [
            {
              station: 'cut' as const,
              wish: { start: end - length, end },
              label: `Cut ${over} off the start`,
              isExact: true,
            },
          ]
        : []),
    ];
  },
  forSet(members, budget) {
    const limit = evenLimit(members, budget);
    if (!(limit > LEAST) || limit === Number.POSITIVE_INFINITY) return [];
    const long = members.filter(({ seconds }) => seconds > limit).length;
    const settings = members.map(({ facts, settings, chain, seconds }) => {
      if (seconds <= limit) return settings;
      const { start, end } = chain.stations.cut.plan;
      // What Ends adds is taken off as well.
      const length = Math.max(1, Math.floor((end - start) * (limit / seconds)));
      return together(settings, { station: 'cut', wish: { start, end: Math.min(facts.frames, start + length) } });
    });
    const which = long === 1 ? 'longest' : `${formatCount(long)} longest`;
    return [{ label: `Cut the ${which} to ${formatSeconds(limit)}`, settings }];
  },
};
