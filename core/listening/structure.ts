import {
  BANDS,
  BANDS_HOP,
  BANDS_RATE,
  type BandLevels,
  type BandMatch,
  type BandRecording,
  bandMeans,
  everywhere,
} from '../dsp/index.ts';

/** What became of a sound's ends, and of what comes after it. */
export interface Structure {
  /** Seconds of the sound that are not there. */
  readonly missingAtStart: number;
  readonly missingAtEnd: number;
  /** Seconds of silence between one round and the next; null if there is one round. */
  readonly gap: number | null;
  readonly rounds: number;
}

const HOP = BANDS_HOP / BANDS_RATE;

/** A further round is as alike as the first one, but for so much. */
const AS_ALIKE = 0.6;
/** What is there stands out of the noise by so much, power over power. */
const STANDS_OUT = 2.5;
/** Frames that are missing in a row before one says so. */
const LEAST_MISSING = 8;

/** Frame by frame, whether something stands out of the noise where the sound should be heard; null if it is soft itself. */
function thereOf(
  sound: BandLevels,
  { levels, noise, overNoise }: BandRecording,
  { offset, stretch }: BandMatch,
): (boolean | null)[] {
  const frames = Math.floor(sound.frames / stretch);
  const means = bandMeans(sound);
  return Array.from({ length: frames }, (_, frame) => {
    const own = Math.min(sound.frames - 1, Math.floor(frame * stretch));
    let [should, is] = [0, 0];
    for (let band = 0; band < BANDS; band++) {
      if (overNoise[band] < 0.3) continue;
      // As loud as it would be in the recording, in units of the noise.
      should += ((sound.power[own * BANDS + band] / Math.max(means[band], 1e-12)) * overNoise[band]) / BANDS;
      const at = frame + offset;
      is += (at < 0 || at >= levels.frames ? 0 : levels.power[at * BANDS + band] / noise[band]) / BANDS;
    }
    return should < 3 * STANDS_OUT ? null : is > STANDS_OUT;
  });
}

/** Seconds of frames at one end that should be heard and are not. */
function missing(there: readonly (boolean | null)[], frames: number): number {
  const first = there.indexOf(true);
  const gone = (first < 0 ? there : there.slice(0, first)).filter((is) => is === false).length;
  return gone >= LEAST_MISSING ? (first < 0 ? frames : first) * HOP : 0;
}

export function structureOf(sound: BandLevels, recording: BandRecording, match: BandMatch): Structure {
  const there = thereOf(sound, recording, match);
  const length = Math.floor(sound.frames / match.stretch);
  // Rounds lie at least most of a length apart.
  const likely = everywhere(sound, recording, match.stretch)
    .filter(({ score }) => score > AS_ALIKE * match.score)
    .toSorted((a, b) => b.score - a.score);
  const rounds: number[] = [];
  for (const { offset } of likely) {
    if (rounds.every((other) => Math.abs(other - offset) > 0.7 * length)) rounds.push(offset);
  }
  rounds.sort((a, b) => a - b);
  const apart = rounds.length > 1 ? (rounds[1] - rounds[0] - length) * HOP : null;
  return {
    missingAtStart: missing(there, length),
    missingAtEnd: missing(there.toReversed(), length),
    gap: apart === null ? null : Math.max(0, apart),
    rounds: rounds.length,
  };
}
