import type { PcmReader } from '../audio/index.ts';
import { SPECTRUM_SIZE, SpectrumMeter } from './spectrum.ts';

/** Levels of a sound by time and frequency. */
export interface Spectrogram {
  readonly columns: number;
  readonly rows: number;
  /** Hz at the upper edge of the last row. */
  readonly top: number;
  /** dB, column by column, each from 0 Hz up: a full-scale sine shows 0. NaN above half of the sound's rate. */
  readonly levels: Float32Array;
}

export interface SpectrogramOptions {
  /** Frames of the sound. */
  readonly start: number;
  readonly end: number;
  readonly columns: number;
  readonly rows: number;
  /** Hz. */
  readonly top: number;
}

/**
 * A short-time spectrum: one window of 4 096 frames in the middle of each column; of each row the strongest of its bins.
 * What lies beside the range is not looked at.
 */
export async function spectrogramOf(
  sound: PcmReader,
  { start, end, columns, rows, top }: SpectrogramOptions,
): Promise<Spectrogram> {
  const levels = new Float32Array(columns * rows).fill(Number.NaN);
  const meter = new SpectrumMeter();
  const bin = sound.sampleRate / SPECTRUM_SIZE;
  const half = SPECTRUM_SIZE / 2;
  for (let column = 0; column < columns; column++) {
    const middle = start + ((column + 0.5) / columns) * (end - start);
    const from = Math.max(start, Math.floor(middle - half));
    const to = Math.min(end, from + SPECTRUM_SIZE);
    meter.clear();
    meter.add(await sound.read(from, to - from));
    const found = meter.levels();
    for (let row = 0; row < rows; row++) {
      const [low, high] = [(row * top) / rows, ((row + 1) * top) / rows];
      if (low >= sound.sampleRate / 2) break;
      let most = Number.NEGATIVE_INFINITY;
      const last = Math.min(half, Math.max(Math.floor(high / bin), Math.round(low / bin)));
      for (let k = Math.round(low / bin); k <= last; k++) most = Math.max(most, found[k]);
      levels[column * rows + row] = most;
    }
  }
  return { columns, rows, top, levels };
}
