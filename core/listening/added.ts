import { BANDS_RATE } from '../dsp/index.ts';
import { asPlayed, type Evidence, rmsOf } from '../symptoms/index.ts';
import type { Hypothesis } from './hypotheses.ts';
import type { Alignment } from './refine.ts';

/** What a device adds to a sound: its header in front of it, or the rest of a block behind. */
interface Addition {
  readonly hypothesis: string;
  readonly title: string;
}

const rms = (samples: Float32Array, from: number, to: number): number =>
  rmsOf(samples, Math.max(0, Math.round(from)), Math.min(samples.length, Math.round(to)));

/** A hypothesis that was found in a recording. */
interface Discovery {
  readonly hypothesis: Hypothesis;
  /** At `BANDS_RATE`. */
  readonly samples: Float32Array;
  readonly placed: Alignment | null;
}

/** Seconds beside the sound that say how loud it is there without an addition. */
const BESIDE = 0.15;

/**
 * The addition that is heard, or null: where the device would play it, the recording must be louder than just before, by at
 * least half of the addition's level.
 */
export async function added(
  evidence: Evidence,
  { hypothesis: { sampleRate }, samples, placed }: Discovery,
  recording: Float32Array,
): Promise<Addition | null> {
  if (!placed) return null;
  const { front, behind } = await asPlayed(evidence);
  const end = placed.delay + samples.length * placed.pace;
  // How loud the device is in the recording.
  const gain = rms(recording, placed.delay, end) / Math.max(1e-9, rmsOf(samples));
  const isHeard = (addition: Float32Array | null, from: number, quietFrom: number): boolean => {
    if (!addition?.length) return false;
    const length = (addition.length * BANDS_RATE * placed.pace) / sampleRate;
    const should = gain * rmsOf(addition);
    const start = from - (quietFrom < from ? length : 0);
    // Where the recording begins later, nobody can tell.
    if (Math.min(start, quietFrom) < 0) return false;
    const is = rms(recording, start, start + length);
    const quiet = rms(recording, quietFrom, quietFrom + BESIDE * BANDS_RATE);
    return should > 2 * quiet && is > Math.max(1.8 * quiet, 0.25 * should);
  };
  const length = front ? (front.length * BANDS_RATE * placed.pace) / sampleRate : 0;
  if (isHeard(front, placed.delay, placed.delay - length - BESIDE * BANDS_RATE)) {
    return { hypothesis: 'header-played', title: 'It played the header of the file' };
  }
  // What a room leaves behind the sound has died away after that.
  if (isHeard(behind, end, end + 0.35 * BANDS_RATE)) {
    return { hypothesis: 'part-block', title: 'It filled the last block itself' };
  }
  return null;
}
