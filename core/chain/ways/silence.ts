import type { Facts } from '../../facts/index.ts';
import { formatSeconds } from '../../words/index.ts';
import type { Candidate, KindOfWay, Trouble } from './way.ts';
import { together } from './way.ts';

interface Cut {
  readonly start: number;
  readonly end: number;
}

/** What of a cut is not silence at its ends, in frames of the source; null if all of it is silence. */
function soundWithin({ frames, measures }: Facts, { start, end }: Cut): Cut | null {
  const first = Math.max(start, measures.leadingSilence);
  const last = Math.min(end, frames - measures.trailingSilence);
  return first < last ? { start: first, end: last } : null;
}

/** Silence shorter than this is not worth a word, seconds. */
const LEAST = 0.01;

function forClip({ facts, chain }: Trouble): Candidate[] {
  const { start, end } = chain.stations.cut.plan;
  const sound = soundWithin(facts, { start, end });
  if (!sound) return [];
  const least = LEAST * facts.sampleRate;
  const candidate = (cut: Cut, where: string): Candidate => {
    const frames = end - start - (cut.end - cut.start);
    return { station: 'cut', wish: cut, label: `Trim ${formatSeconds(frames / facts.sampleRate)} of silence ${where}` };
  };
  const hasFront = sound.start - start > least;
  const hasBack = end - sound.end > least;
  return [
    ...(hasFront ? [candidate({ start: sound.start, end }, 'at the start')] : []),
    ...(hasBack ? [candidate({ start, end: sound.end }, 'at the end')] : []),
    ...(hasFront && hasBack ? [candidate(sound, 'at both ends')] : []),
  ];
}

/** Silence at the ends of what is cut can go without anybody hearing it. */
export const silence: KindOfWay = {
  title: 'Trim silence',
  forClip,
  forSet(members) {
    let seconds = 0;
    const settings = members.map(({ facts, chain, settings }) => {
      const { start, end } = chain.stations.cut.plan;
      const sound = soundWithin(facts, { start, end });
      const trimmed = sound ? (end - start - (sound.end - sound.start)) / facts.sampleRate : 0;
      if (!sound || trimmed < LEAST) return settings;
      seconds += trimmed;
      return together(settings, { station: 'cut', wish: sound });
    });
    return seconds > 0 ? [{ label: `Trim ${formatSeconds(seconds)} of silence in all`, settings }] : [];
  },
};
