import type { Pcm } from '../audio/index.ts';
import type { SymptomId } from '../standin/index.ts';

type Signs = Partial<Record<SymptomId, number>>;

const clamp = (value: number): number => Math.min(1, Math.max(0, value));

/** Samples of all channels as one. */
export function mixed({ channels }: Pcm): Float32Array {
  const [first = new Float32Array(0), ...rest] = channels;
  if (rest.length === 0) return first;
  return first.map((value, i) => rest.reduce((sum, samples) => sum + samples[i], value) / channels.length);
}

export function rmsOf(samples: Float32Array, from = 0, to = samples.length): number {
  let sum = 0;
  for (let i = from; i < to; i++) sum += samples[i] ** 2;
  return to > from ? Math.sqrt(sum / (to - from)) : 0;
}

/**
 * How well each sample is told by the two before it, in dB: the power of the sound over that of what the better of two
 * fixed predictors (RFC 9639, section 9.2.5) leaves. Noise has 0 and less.
 */
export function predictability(samples: Float32Array): number {
  let [power, first, second] = [0, 0, 0];
  for (let i = 2; i < samples.length; i++) {
    const step = samples[i] - samples[i - 1];
    power += samples[i] ** 2;
    first += step ** 2;
    second += (step - (samples[i - 1] - samples[i - 2])) ** 2;
  }
  const left = Math.min(first, second);
  return power > 0 && left > 0 ? 10 * Math.log10(power / left) : 0;
}

/** Stretches in which the loudness of a sound is compared. */
const STRETCHES = 120;

/** Loudness over time, in equal stretches, whatever the length. */
function rhythm(samples: Float32Array): number[] {
  const size = samples.length / STRETCHES;
  return Array.from({ length: STRETCHES }, (_, i) => rmsOf(samples, Math.floor(i * size), Math.floor((i + 1) * size)));
}

function correlation(a: readonly number[], b: readonly number[]): number {
  const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
  const [ma, mb] = [mean(a), mean(b)];
  let [ab, aa, bb] = [0, 0, 0];
  for (const [i, value] of a.entries()) {
    ab += (value - ma) * (b[i] - mb);
    aa += (value - ma) ** 2;
    bb += (b[i] - mb) ** 2;
  }
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
}

/** Semitones up or down: 12 log2 of the ratio of frequencies (equal temperament, ISO 16). */
export const semitones = (ratio: number): number => 12 * Math.log2(ratio);

/** A change of speed is heard from a third of a semitone on (common practice, no source). */
const HEARD_SEMITONES = 1 / 3;

/** What a speed of so many times the right one is heard as. */
export function speedSigns(ratio: number): Signs {
  const away = Math.abs(semitones(ratio));
  if (away < HEARD_SEMITONES) return {};
  const strength = clamp(0.6 + away / 12);
  return ratio < 1 ? { 'too-slow': strength } : { 'too-fast': strength };
}

/** dB that a sound loses in predictability before it is heard as garbled. */
const HEARD_DB = 3;

/** Share of foreign power from which on a sound is heard as distorted: some 13 dB below it (common practice, no source). */
const HEARD_SHARE = 0.05;

/** How much of a sound's power is not the other one at some level, 0..1. */
export function unlikeness(a: Float32Array, b: Float32Array): number {
  let [ab, aa, bb] = [0, 0, 0];
  for (let i = 0; i < a.length; i++) {
    ab += a[i] * b[i];
    aa += a[i] ** 2;
    bb += b[i] ** 2;
  }
  return aa > 0 && bb > 0 ? 1 - ab ** 2 / (aa * bb) : 0;
}

/** What is heard of a sound that comes out otherwise than it should: speed, noise, level. */
export function soundSigns(heard: Pcm, right: Pcm): Signs {
  const [a, b] = [mixed(heard), mixed(right)];
  if (a.length === 0 || b.length === 0) return { silence: 1 };
  const ratio = b.length / right.sampleRate / (a.length / heard.sampleRate);
  const [loud, should] = [rmsOf(a), rmsOf(b)];
  const lost = predictability(b) - predictability(a);
  // Sample against sample where there are as many; otherwise noise is told by how badly one sample tells the next.
  const unlike = a.length === b.length ? unlikeness(a, b) : 0;
  const noise = clamp(Math.max((lost - HEARD_DB) / 9 + 0.3, unlike * 1.2));
  const isNoisy = lost > HEARD_DB || unlike > HEARD_SHARE;
  const inRhythm = correlation(rhythm(a), rhythm(b));
  return {
    ...speedSigns(ratio),
    ...(isNoisy
      ? inRhythm > 0.7
        ? { garbled: 0.75 * noise, 'garbled-in-rhythm': noise, harsh: 0.8 * noise }
        : { garbled: noise, 'garbled-in-rhythm': 0.7 * noise, harsh: 0.6 * noise }
      : {}),
    ...(loud < should / 8 ? { 'too-quiet': clamp(0.5 + Math.log10(should / Math.max(loud, 1e-9)) / 4) } : {}),
    ...(loud < 1e-4 ? { silence: 1 } : {}),
  };
}

/** So many samples in a row at the same height, and the peak was cut off. */
const FLAT_RUN = 3;

/**
 * Frames in stretches that stay at the highest or lowest value, where the sound comes there with a step: a peak that was
 * cut off has corners, one that is only coarse has none.
 */
export function flatFrames({ channels }: Pcm): number {
  return Math.max(0, ...channels.map((samples) => flatIn(samples)));
}

function flatIn(samples: Float32Array): number {
  let [low, high] = [0, 0];
  for (const value of samples) {
    low = Math.min(low, value);
    high = Math.max(high, value);
  }
  // The next level below the highest one: how coarse the encoding is up there.
  let [belowHigh, aboveLow] = [low, high];
  for (const value of samples) {
    if (value < high && value > belowHigh) belowHigh = value;
    if (value > low && value < aboveLow) aboveLow = value;
  }
  const coarse = Math.max(high - belowHigh, aboveLow - low);
  let flat = 0;
  for (let i = 1; i < samples.length; i++) {
    const value = samples[i];
    if (value !== high && value !== low) continue;
    let end = i;
    while (samples[end + 1] === value) end++;
    const step = Math.max(Math.abs(value - samples[i - 1]), Math.abs(value - (samples[end + 1] ?? value)));
    if (end - i + 1 >= FLAT_RUN && step > Math.max(0.01, 2.5 * coarse)) flat += end - i + 1;
    i = end;
  }
  return flat;
}
