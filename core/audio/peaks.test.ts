import fc from 'fast-check';
import { expect, test } from 'vitest';
import { deinterleave, interleave } from './pcm.ts';
import { binCount, coarser, PEAK_STEPS, PeaksBuilder, peaksOf } from './peaks.ts';

const sound = fc.array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: 1, maxLength: 300 });

test('peaks of peaks are the peaks of the sound, whatever the lengths', () => {
  fc.assert(
    fc.property(sound, fc.integer({ min: 1, max: 20 }), fc.integer({ min: 1, max: 20 }), (values, step, factor) => {
      const channels = [Float32Array.from(values), Float32Array.from(values, (value) => -value / 2)];
      const direct = peaksOf(channels, step * factor);
      expect(coarser(peaksOf(channels, step), factor)).toEqual(direct);
      expect(binCount(direct)).toBe(Math.ceil(values.length / (step * factor)));
    }),
  );
});

test('each bin holds the lowest and the highest of its samples', () => {
  const { values } = peaksOf([Float32Array.of(0.5, -0.25, 0.125, 1, -1)], 2);
  expect([...values]).toEqual([-0.25, 0.5, 0.125, 1, -1, -1]);
});

test('interleaving there and back', () => {
  fc.assert(
    fc.property(sound, fc.integer({ min: 1, max: 6 }), (values, count) => {
      const channels = Array.from({ length: count }, (_, c) => Float32Array.from(values, (value) => value / (c + 1)));
      const joined = interleave(channels, new Float32Array(values.length * count));
      expect(deinterleave(joined, count)).toEqual(channels);
    }),
  );
});

test('peaks gathered block by block are those of the whole, at every stored step', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 1, max: 3000 }), { minLength: 1, maxLength: 12 }), (lengths) => {
      const frames = lengths.reduce((sum, length) => sum + length, 0);
      const channels = [0, 1].map((c) => Float32Array.from({ length: frames }, (_, i) => Math.sin(i * (0.37 + c))));
      const builder = new PeaksBuilder(2);
      let at = 0;
      for (const length of lengths) {
        builder.add(channels.map((samples) => samples.subarray(at, at + length)));
        at += length;
      }
      expect(builder.levels()).toEqual(PEAK_STEPS.map((step) => peaksOf(channels, step).values));
    }),
    { numRuns: 40 },
  );
});
