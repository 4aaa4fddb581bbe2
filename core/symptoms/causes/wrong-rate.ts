import { fixedRate, ofStream } from '../../standin/index.ts';
import { formatRate, formatSeconds } from '../../words/index.ts';
import type { Cause } from '../cause.ts';
import { semitones, speedSigns } from '../measures.ts';
import { ownRate } from '../own-rate.ts';
import { stoppedBy } from '../without.ts';

export const wrongRate: Cause = {
  id: 'wrong-rate',
  title: 'It was made for another rate',
  tellApart: 'Everything is slower and lower, or faster and higher, by the same ratio.',
  async try(evidence) {
    const { truth, stated, played, taken, facts, player, sound, situation } = evidence;
    const { source } = situation;
    const mend = {
      words: 'resample it to the rate at which the device plays',
      where: 'job',
      station: 'rate',
      wish: 'automatic',
    } as const;
    const stopped = await stoppedBy(evidence, 'plays-rates');
    if (stopped) return { ...stopped, mend };
    if (!truth || !stated || !facts || !sound) return null;
    // Bare samples say nothing of their rate; what they were made of does.
    const own = truth.how === 'stated' ? stated.sampleRate : source ? ownRate(sound, source) : null;
    if (own === null) return null;
    const rate = taken?.sampleRate ?? fixedRate(player) ?? played?.sampleRate ?? stated.sampleRate;
    const signs = speedSigns(rate / own);
    if (Object.keys(signs).length === 0) return null;
    const steps = semitones(rate / own);
    return {
      signs,
      seen: `It ${truth.how === 'stated' ? 'is' : 'sounds as its source does'} at ${formatRate(own)}. Played at ${formatRate(rate)} it lasts ${formatSeconds(facts.frames / rate)} instead of ${formatSeconds(facts.frames / own)} and sounds ${Math.abs(steps).toFixed(1)} semitones ${steps < 0 ? 'down' : 'up'}.`,
      mend,
      heard: () => ofStream({ ...truth.sound, stated: { ...stated, sampleRate: rate } }, player),
    };
  },
};
