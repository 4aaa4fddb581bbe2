import { peaksOf } from '@tambur/core';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import {
  asOneBand,
  drawSteps,
  drawWaveform,
  extentOfPeaks,
  extentOfSamples,
  strengthOfPowers,
  strengthOfSamples,
} from './waveform.ts';

const sound = fc
  .array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: 8, maxLength: 200 })
  .map((values) => Float32Array.from(values));

test('peaks and samples give the same extent on whole bins', () => {
  fc.assert(
    fc.property(sound, fc.integer({ min: 1, max: 8 }), fc.nat(), fc.nat(), (samples, step, a, b) => {
      const bins = Math.ceil(samples.length / step);
      const first = a % bins;
      const last = first + 1 + (b % (bins - first));
      const fromPeaks = extentOfPeaks(peaksOf([samples], step))(0, first * step, last * step);
      expect(fromPeaks).toEqual(extentOfSamples([samples])(0, first * step, last * step));
    }),
  );
});

test('samples that begin later are found at their frames; beyond them is silence', () => {
  const extent = extentOfSamples([Float32Array.of(0.5, -0.5)], 100);
  expect(extent(0, 100, 101)).toEqual([0.5, 0.5]);
  expect(extent(0, 100, 102)).toEqual([-0.5, 0.5]);
  expect(extent(0, 500, 501)).toEqual([0, 0]);
});

test('long ranges are what going through every sample gives', () => {
  const frames = 3000;
  const place = fc.integer({ min: 0, max: frames });
  fc.assert(
    fc.property(fc.infiniteStream(fc.integer({ min: -128, max: 127 })), place, place, (values, a, b) => {
      const samples = Float32Array.from({ length: frames }, () => (values.next().value ?? 0) / 128);
      const [first, last] = [Math.min(a, b), Math.max(a, b, Math.min(a, b) + 1)];
      const range = Array.from(samples.subarray(first, last));
      if (range.length === 0) return;
      const sound = [new Float32Array(frames), samples];
      expect(extentOfSamples(sound, 50)(1, first + 50, last + 50)).toEqual([Math.min(...range), Math.max(...range)]);
      const effective = Math.hypot(...range) / Math.sqrt(range.length);
      expect(strengthOfSamples(sound, 50)(1, first + 50, last + 50)).toBeCloseTo(effective, 9);
    }),
    { numRuns: 40 },
  );
});

test('less than one frame to a pixel still shows that frame', () => {
  expect(extentOfSamples([Float32Array.of(0, 0.25, 0.5)])(0, 1.2, 1.4)).toEqual([0.25, 0.25]);
});

/** Takes down what is drawn. */
function recorder() {
  const rects: { x: number; y: number; height: number; tone: string }[] = [];
  const points: [number, number][] = [];
  const context = {
    fillStyle: '',
    fillRect(x: number, y: number, _: number, height: number) {
      rects.push({ x, y, height, tone: context.fillStyle });
    },
    beginPath: () => undefined,
    stroke: () => undefined,
    lineTo: (x: number, y: number) => points.push([x, y]),
  };
  return { rects, points, context: context as unknown as CanvasRenderingContext2D };
}

test('a full-scale square fills its band, column by column, in the colours of the cut', () => {
  const { rects, context } = recorder();
  const square = Float32Array.from({ length: 40 }, (_, i) => (i % 2 ? 1 : -1));
  const view = { from: 0, to: 40 };
  drawWaveform(context, 10, 104, view, 1, extentOfSamples([square]), (frame) => (frame < 20 ? 'in' : 'out'));
  expect(rects).toHaveLength(10);
  for (const { x, y, height, tone } of rects) {
    expect([y, height]).toEqual([2, 100]);
    expect(tone).toBe(x < 5 ? 'in' : 'out');
  }
});

test('from afar a wave has a ribbon at its foot, as thick as it is loud; from near it is a line', () => {
  // A square of a tenth, and silence: 20 dB below full scale are 28 of 48 dB above the ribbon's beginning.
  const sound = Float32Array.from({ length: 1000 }, (_, i) => (i < 500 ? 0.1 * (i % 2 ? 1 : -1) : 0));
  const drawn = (to: number) => {
    const { rects, context } = recorder();
    const ribbon = { strength: strengthOfSamples([sound]), peakAt: () => 'peak' };
    drawWaveform(context, 10, 104, { from: 0, to }, 1, extentOfSamples([sound]), () => 'ribbon', ribbon);
    return rects;
  };
  const far = drawn(1000);
  expect(far.filter(({ tone }) => tone === 'peak')).toHaveLength(10);
  const ribbon = far.filter(({ tone }) => tone === 'ribbon');
  expect(ribbon.map(({ x }) => x)).toEqual([0, 1, 2, 3, 4]);
  for (const { y, height } of ribbon) {
    expect(height).toBeCloseTo(0.14 * 104 * (28 / 48), 4);
    expect(y + height).toBeCloseTo(104, 6);
  }
  expect(new Set(drawn(100).map(({ tone }) => tone))).toEqual(new Set(['ribbon']));
});

test('powers tell the same as samples, to the bin', () => {
  const sound = Float32Array.from({ length: 1024 }, (_, i) => Math.sin(i / 7) * (i / 1024));
  const values = Float32Array.from({ length: 4 }, (_, bin) => {
    const part = sound.subarray(bin * 256, (bin + 1) * 256);
    return part.reduce((sum, value) => sum + value * value, 0) / 256;
  });
  const fromPowers = strengthOfPowers({ step: 256, channelCount: 1, values });
  for (const [from, to] of [
    [0, 256],
    [256, 1024],
    [0, 1024],
  ] as const) {
    expect(fromPowers(0, from, to)).toBeCloseTo(strengthOfSamples([sound])(0, from, to), 5);
  }
  expect(fromPowers(0, 2000, 3000)).toBe(0);
});

test('two channels lie above each other', () => {
  const { rects, context } = recorder();
  const flat = [new Float32Array(10), new Float32Array(10)];
  drawWaveform(context, 5, 100, { from: 0, to: 10 }, 2, extentOfSamples(flat), () => 'in');
  expect(new Set(rects.map(({ y }) => y))).toEqual(new Set([25, 75]));
});

test('few samples are drawn as steps, each as wide as its frame', () => {
  const { points, context } = recorder();
  drawSteps(context, 30, 104, { from: 0, to: 3 }, [Float32Array.of(1, 0, -1)], 'ink');
  expect(points).toEqual([
    [0, 2],
    [10, 2],
    [10, 52],
    [20, 52],
    [20, 102],
    [30, 102],
  ]);
});

test('several channels in one band: the farthest swing and the strongest of them', () => {
  const channels = [Float32Array.of(0, 0, 0, 0), Float32Array.of(0.5, -0.25, 0.5, -0.25)];
  const { extent, strength } = asOneBand(2, extentOfSamples(channels), strengthOfSamples(channels));
  expect(extent(0, 0, 4)).toEqual([-0.25, 0.5]);
  expect(strength?.(0, 0, 4)).toBeCloseTo(Math.sqrt((0.25 + 0.0625) / 2), 6);
  expect(asOneBand(2, extentOfSamples(channels), null).strength).toBeNull();
});
