import type { Pcm } from '../audio/index.ts';
import { BANDS_RATE, bandLevels, likestCut, resample } from '../dsp/index.ts';
import { USUAL_RATES } from '../numbers/index.ts';
import { mixed } from './measures.ts';

/** Rates at which devices may play, beside the usual ones those of half and three quarters of some. */
const TRIED_RATES: readonly number[] = [6000, 12_000, 24_000, ...USUAL_RATES];

/** Seconds of a source that are listened to for the rate of what was made of it. */
export const LONGEST_SOURCE = 600;

/** Less alike than that, and the file was not made of this source: own cuts are at 0.89 and more, others at 0.68 and less. */
const LEAST_ALIKE = 0.78;

/** What lies above so much of a rate is no more in what was made for it. */
const KEPT = 0.45;

/** Levels of sources: one is held against many files and asked about often. */
const known = new WeakMap<Pcm, ReturnType<typeof bandLevels>>();

function levelsOf(source: Pcm): ReturnType<typeof bandLevels> {
  const levels = known.get(source) ?? bandLevels(resample(mixed(source), source.sampleRate, BANDS_RATE));
  known.set(source, levels);
  return levels;
}

/**
 * The rate at which bare samples sound as a part of the source does that they were made of, or as that part alone does;
 * null if they do at none.
 * @param sound at whatever rate it was taken to have
 */
export function ownRate(sound: Pcm, source: Pcm): number | null {
  const original = levelsOf(source);
  const samples = mixed(sound);
  const tried = [...new Set([sound.sampleRate, ...TRIED_RATES])].map((rate) => {
    const levels = bandLevels(resample(samples, rate, BANDS_RATE));
    return { rate, alike: likestCut(levels, original, KEPT * rate) };
  });
  const [best] = tried.sort((a, b) => b.alike - a.alike);
  return best && best.alike >= LEAST_ALIKE ? best.rate : null;
}
