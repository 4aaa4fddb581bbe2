import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fromDb, toDb } from '../numbers/index.ts';
import { deadChannels, LevelMeter } from './levels.ts';

function levelsOf(channels: readonly Float32Array[]) {
  const meter = new LevelMeter(channels.length);
  meter.add(channels);
  return meter.result();
}

const sine = (frames: number, amplitude: number, cycles: number) =>
  Float32Array.from({ length: frames }, (_, i) => amplitude * Math.sin((2 * Math.PI * cycles * i) / frames));

describe('levels', () => {
  test('a sine: its peak, its RMS (peak / sqrt 2, textbook), no offset', () => {
    const levels = levelsOf([sine(48_000, 0.5, 1000)]);
    expect(levels.peak[0]).toBeCloseTo(0.5, 6);
    expect(levels.rms[0]).toBeCloseTo(0.5 / Math.SQRT2, 6);
    expect(levels.dcOffset[0]).toBeCloseTo(0, 6);
    expect(levels.correlation).toBeNull();
  });

  test.each([
    ['the same on both sides', 1, 1],
    ['one side inverted', -1, -1],
  ])('correlation: %s', (_, factor, wanted) => {
    const left = sine(4800, 0.5, 100);
    const levels = levelsOf([left, left.map((value) => factor * value)]);
    expect(levels.correlation).toBeCloseTo(wanted, 6);
  });

  test('a silent side is found, silence as a whole is not called a dead side', () => {
    const left = sine(4800, 0.5, 100);
    const none = new Float32Array(4800);
    expect(deadChannels(levelsOf([left, none]))).toEqual([1]);
    expect(deadChannels(levelsOf([none, none]))).toEqual([]);
  });

  test('full-scale frames are counted once however many channels reach full scale', () => {
    const samples = Float32Array.of(0, 1, -1, 0.99, 32767 / 32768);
    expect(levelsOf([samples, samples]).fullScaleFrames).toBe(3);
  });

  test('block by block gives what one block gives', () => {
    fc.assert(
      fc.property(
        fc.array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: 2, maxLength: 200 }),
        fc.nat(),
        (values, at) => {
          const samples = Float32Array.from(values);
          const split = at % samples.length;
          const meter = new LevelMeter(1);
          meter.add([samples.subarray(0, split)]);
          meter.add([samples.subarray(split)]);
          const whole = levelsOf([samples]);
          const parts = meter.result();
          expect(parts.peak).toEqual(whole.peak);
          expect(parts.fullScaleFrames).toBe(whole.fullScaleFrames);
          expect(parts.rms[0]).toBeCloseTo(whole.rms[0], 9);
        },
      ),
    );
  });

  test('decibels there and back', () => {
    expect(toDb(fromDb(-7.5))).toBeCloseTo(-7.5, 12);
    expect(toDb(1)).toBe(0);
  });
});
