import { BANDS_RATE } from '../dsp/index.ts';
import { atPace, paceOf } from './pace.ts';

/** How a sound lies in a recording, to the sample. */
export interface Alignment {
  /** Samples of the recording before the sound's first one. */
  readonly delay: number;
  /** Samples of the recording for each of the sound: above 1 the device is slower than thought. */
  readonly pace: number;
  /** How alike their waves are where they were compared, 0..1: what no other sound is. */
  readonly likeness: number;
}

/** Where a sound lies, and at which pace. */
type Line = Pick<Alignment, 'delay' | 'pace'>;

/** Samples of a piece that is looked for: long enough to be found in noise, short enough to be at one pace. */
const PIECE = 1024;
/** Samples by which a piece may be away from where the one beside it says. */
const NEAR = 6;
/** Where nothing is known yet: a frame and a half of the coarse search to each side. */
const FAR = 200;
/** Pieces that are looked for, the loudest ones spread over the sound. */
const SEEDS = 6;

/** Seconds of a sound that are enough. */
const ENOUGH = 8;

const beginning = (sound: Float32Array) => sound.subarray(0, ENOUGH * BANDS_RATE);
/** Differences: what is low is loud and says little about when. */
export const edged = (samples: Float32Array) => samples.map((value, i) => value - 0.9 * (samples[i - 1] ?? 0));

interface PieceMatch {
  readonly at: number;
  readonly lag: number;
  /** 0..1, whether they swing together or against each other. */
  readonly likeness: number;
}

/** Best place of a piece of the sound near a lag. */
function findPiece(sound: Float32Array, recording: Float32Array, at: number, lag: number, reach: number): PieceMatch {
  let best: PieceMatch = { at, lag, likeness: 0 };
  const power = powerOf(sound, at);
  if (power === 0) return best;
  for (let shift = lag - reach; shift <= lag + reach; shift++) {
    const from = at + shift;
    if (from < 0 || from + PIECE > recording.length) continue;
    let [sum, own] = [0, 0];
    for (let i = 0; i < PIECE; i++) {
      const value = recording[from + i];
      sum += sound[at + i] * value;
      own += value * value;
    }
    const likeness = own > 0 ? Math.abs(sum) / Math.sqrt(own * power) : 0;
    if (likeness > best.likeness) best = { at, lag: shift, likeness };
  }
  return best;
}

function powerOf(sound: Float32Array, at: number): number {
  let power = 0;
  for (let i = at; i < at + PIECE; i++) power += sound[i] ** 2;
  return power;
}

/** The loudest piece of each stretch of the sound. */
function seedsOf(sound: Float32Array): readonly number[] {
  const starts = Array.from({ length: Math.floor(sound.length / PIECE) }, (_, i) => i * PIECE);
  const size = Math.max(1, Math.ceil(starts.length / SEEDS));
  const stretches = Array.from({ length: Math.ceil(starts.length / size) }, (_, i) =>
    starts.slice(i * size, (i + 1) * size),
  );
  const loud = stretches.map((stretch) => stretch.reduce((a, b) => (powerOf(sound, b) > powerOf(sound, a) ? b : a)));
  const most = Math.max(0, ...loud.map((at) => powerOf(sound, at)));
  return loud.filter((at) => powerOf(sound, at) > most / 300);
}

/** How alike pieces are: of half of them, as the rest may not be there, or drown in noise. */
function together(found: readonly PieceMatch[]): number {
  const best = found.map(({ likeness }) => likeness).sort((a, b) => b - a);
  const half = best.slice(0, Math.ceil(best.length / 2));
  return half.reduce((total, likeness) => total + likeness, 0) / Math.max(1, half.length);
}

/**
 * How alike a sound is to a recording where another one of its length lies, or near that.
 * @param recording as `edged` gives it
 */
export function likenessAt(soundIn: Float32Array, recording: Float32Array, { delay, pace }: Line): number {
  const sound = edged(atPace(beginning(soundIn), pace));
  return together(seedsOf(sound).map((at) => findPiece(sound, recording, at, Math.round(delay), NEAR)));
}

/** The loudest pieces, each of which may say where the others lie. */
const LEADERS = 2;

/**
 * Looks for the pace at which the sound lies in the recording, and where.
 * @param recording as `edged` gives it
 * @param delay where the sound is thought to begin
 */
export function refined(soundIn: Float32Array, recording: Float32Array, delay: number): Alignment | null {
  const sound = edged(beginning(soundIn));
  const pace = paceOf(sound, recording, delay);
  const paced = atPace(sound, pace);
  const seeds = seedsOf(paced);
  const loudest = seeds.toSorted((a, b) => powerOf(paced, b) - powerOf(paced, a)).slice(0, LEADERS);
  return loudest
    .map((leader) => findPiece(paced, recording, leader, delay, FAR))
    .map(({ lag }) => seeds.map((at) => findPiece(paced, recording, at, lag, NEAR)))
    .map((found): Alignment => ({ delay: meanLag(found), pace, likeness: together(found) }))
    .reduce<Alignment | null>((best, one) => (one.likeness > (best?.likeness ?? 0) ? one : best), null);
}

/** The mean of lags, by how well each was found. */
function meanLag(pieces: readonly PieceMatch[]): number {
  let [sum, weights] = [0, 0];
  for (const { lag, likeness } of pieces) {
    sum += lag * likeness ** 4;
    weights += likeness ** 4;
  }
  return sum / weights;
}
