import { describe, expect, test } from 'vitest';
import { pcmReader } from '../audio/index.ts';
import { spectrogramOf } from './spectrogram.ts';

const RATE = 44_100;
/** A second of one tone at a tenth of full scale, then a second of another at full scale, then silence. */
const sound = pcmReader({
  sampleRate: RATE,
  channels: [
    Float32Array.from({ length: 3 * RATE }, (_, i) =>
      i < RATE
        ? 0.1 * Math.sin((2 * Math.PI * 1000 * i) / RATE)
        : i < 2 * RATE
          ? Math.sin((2 * Math.PI * 8000 * i) / RATE)
          : 0,
    ),
  ],
});

describe('a spectrogram', () => {
  test('shows each tone in its row, at its time and level, and nothing elsewhere', async () => {
    const rows = 100;
    const found = await spectrogramOf(sound, { start: 0, end: 3 * RATE, columns: 30, rows, top: 20_000 });
    const level = (column: number, hz: number) => found.levels[column * rows + Math.floor(hz / 200)];
    for (const column of [2, 5, 8]) {
      expect(level(column, 1000)).toBeGreaterThan(-22);
      expect(level(column, 1000)).toBeLessThan(-19.5);
      expect(level(column, 8000)).toBeLessThan(-90);
    }
    for (const column of [12, 15, 18]) {
      expect(level(column, 8000)).toBeGreaterThan(-2);
      expect(level(column, 8000)).toBeLessThan(0.5);
      expect(level(column, 1000)).toBeLessThan(-80);
    }
    for (const column of [22, 25, 28]) expect(level(column, 8000)).toBe(Number.NEGATIVE_INFINITY);
  });

  test('of a part of the sound, and nothing above half of its rate', async () => {
    const found = await spectrogramOf(sound, { start: RATE, end: 2 * RATE, columns: 4, rows: 60, top: 30_000 });
    for (let column = 0; column < 4; column++) {
      const rows = [...found.levels.subarray(column * 60, (column + 1) * 60)];
      // The tone lies on the edge of two rows.
      expect([15, 16]).toContain(rows.indexOf(Math.max(...rows.filter((value) => !Number.isNaN(value)))));
      expect(rows.slice(45).every((value) => Number.isNaN(value))).toBe(true);
      expect(rows.slice(0, 44).some((value) => Number.isNaN(value))).toBe(false);
    }
  });

  test('of what is shorter than a window as well', async () => {
    const short = pcmReader({ sampleRate: 8000, channels: [new Float32Array(1000).map((_, i) => Math.sin(i))] });
    const found = await spectrogramOf(short, { start: 0, end: 1000, columns: 3, rows: 20, top: 4000 });
    // sin(i) is at 8 000 / (2 pi) = 1 273 Hz.
    const rows = [...found.levels.subarray(20, 40)];
    expect(rows.indexOf(Math.max(...rows))).toBe(6);
  });
});
