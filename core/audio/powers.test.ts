import fc from 'fast-check';
import { expect, test } from 'vitest';
import { PEAK_STEPS } from './peaks.ts';
import { PowersBuilder } from './powers.ts';

test('powers are the mean squares of their bins at every stored step, however the sound comes', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 1, max: 3000 }), { minLength: 1, maxLength: 8 }), (lengths) => {
      const frames = lengths.reduce((sum, length) => sum + length, 0);
      const channels = [0, 1].map((c) =>
        Float32Array.from({ length: frames }, (_, i) => Math.sin(i * (0.37 + c)) / (1 + c)),
      );
      const builder = new PowersBuilder(2);
      let at = 0;
      for (const length of lengths) {
        builder.add(channels.map((samples) => samples.subarray(at, at + length)));
        at += length;
      }
      builder.levels().forEach((values, level) => {
        const step = PEAK_STEPS[level];
        expect(values).toHaveLength(2 * Math.ceil(frames / step));
        values.forEach((value, i) => {
          const bin = Math.floor(i / 2);
          const part = channels[i % 2].subarray(bin * step, (bin + 1) * step);
          const wanted = part.reduce((sum, sample) => sum + sample * sample, 0) / part.length;
          expect(Math.abs(value - wanted)).toBeLessThan(1e-6);
        });
      });
    }),
    { numRuns: 25 },
  );
});

test('a sine of full scale has a power of one half, whole bins of silence none', () => {
  const builder = new PowersBuilder(1);
  builder.add([Float32Array.from({ length: 512 }, (_, i) => (i < 256 ? Math.sin((2 * Math.PI * i) / 16) : 0))]);
  expect([...builder.levels()[0]].map((value) => Math.round(value * 1e6) / 1e6)).toEqual([0.5, 0]);
  expect(builder.levels()[1][0]).toBeCloseTo(0.25, 6);
});
