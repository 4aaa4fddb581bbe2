import { binCount, type Peaks } from '../audio/index.ts';
import { fromDb, toDb } from '../numbers/index.ts';

/** A piece of a recording between two silences, in frames; `end` is the first frame that is no longer in it. */
export interface Part {
  readonly start: number;
  readonly end: number;
}

/** What counts as silence, and what as a part. Lengths in seconds. */
export interface PartRules {
  /** dBFS: what stays below is silence. */
  readonly thresholdDb: number;
  /** A shorter silence does not divide. */
  readonly leastSilence: number;
  /** What is shorter is no part: a click, a cough. */
  readonly leastPart: number;
  /** So much of the silence stays at each end of a part. */
  readonly margin: number;
}

/** The loudest sample of each bin, all channels together. */
export function envelopeOf(peaks: Peaks): Float32Array {
  const { channelCount, values } = peaks;
  return Float32Array.from({ length: binCount(peaks) }, (_, bin) => {
    let highest = 0;
    for (let i = bin * channelCount * 2; i < (bin + 1) * channelCount * 2; i++) {
      highest = Math.max(highest, Math.abs(values[i]));
    }
    return highest;
  });
}

/** Thresholds that are proposed lie in this range, dBFS. */
const LOWEST_THRESHOLD = -60;
const HIGHEST_THRESHOLD = -20;

/**
 * A threshold in dBFS a third of the way from the recording's quiet places (its lowest tenth) up to its loud ones (its
 * highest hundredth). Common practice, no source.
 */
export function proposedThreshold(envelope: Float32Array): number {
  if (envelope.length === 0) return HIGHEST_THRESHOLD;
  const sorted = envelope.slice().sort();
  const at = (share: number) => toDb(Math.max(1e-6, sorted[Math.floor(share * (sorted.length - 1))]));
  const quiet = at(0.1);
  const threshold = Math.round(quiet + (at(0.99) - quiet) / 3);
  return Math.min(HIGHEST_THRESHOLD, Math.max(LOWEST_THRESHOLD, threshold));
}

/**
 * The parts of a recording between its silences, exact to the bins of its envelope.
 * @param step frames in a bin
 */
export function findParts(
  envelope: Float32Array,
  step: number,
  frames: number,
  sampleRate: number,
  rules: PartRules,
): Part[] {
  const threshold = fromDb(rules.thresholdDb);
  const leastSilence = rules.leastSilence * sampleRate;
  const joined: { start: number; end: number }[] = [];
  envelope.forEach((peak, bin) => {
    if (peak <= threshold) return;
    const start = bin * step;
    const end = Math.min(frames, start + step);
    const last = joined[joined.length - 1];
    if (last && start - last.end < leastSilence) last.end = end;
    else joined.push({ start, end });
  });
  const long = joined.filter(({ start, end }) => end - start >= rules.leastPart * sampleRate);
  const margin = Math.round(rules.margin * sampleRate);
  return long.map(({ start, end }, i) => {
    // Two neighbours share the silence between them.
    const before = i > 0 ? Math.ceil((long[i - 1].end + start) / 2) : 0;
    const behind = i + 1 < long.length ? Math.floor((end + long[i + 1].start) / 2) : frames;
    return { start: Math.max(before, start - margin), end: Math.min(behind, end + margin) };
  });
}

/** Cuts the part that `frame` lies in into two there; the same parts where none can be cut. */
export const splitPart = (parts: readonly Part[], frame: number): Part[] =>
  parts.flatMap((part) =>
    frame > part.start && frame < part.end
      ? [
          { start: part.start, end: frame },
          { start: frame, end: part.end },
        ]
      : [part],
  );

/** Joins a part with the one after it, the silence between them included. */
export const joinPart = (parts: readonly Part[], index: number): Part[] =>
  parts.flatMap((part, i) => {
    const next = parts[index + 1];
    if (i === index && next) return [{ start: part.start, end: next.end }];
    return i === index + 1 && index >= 0 ? [] : [part];
  });
