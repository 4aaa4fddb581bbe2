import { peaksOf } from '@tambur/core';
import { expect, test } from 'vitest';
import { smallWaveform } from './waveform.ts';

const read = (base64: string) => [...new Int8Array(Uint8Array.from(Buffer.from(base64, 'base64')).buffer)];

test('a short sound keeps its bins, all channels together, as signed bytes', () => {
  const { values } = peaksOf([Float32Array.of(0.5, -0.25, 0, 1), Float32Array.of(0, 0, -1, 0.5)], 2);
  expect(read(smallWaveform(values, 2))).toEqual(
    [-32, 64, -127, 127].map((value, i) => (i === 0 ? Math.round(-0.25 * 127) : value)),
  );
});

test('a long one has 96 bins, none of which misses a peak', () => {
  const sound = Float32Array.from({ length: 100_000 }, (_, i) => (i === 77_777 ? 0.9 : 0.1 * Math.sin(i)));
  const bins = read(smallWaveform(peaksOf([sound], 256).values, 1));
  expect(bins).toHaveLength(192);
  expect(Math.max(...bins)).toBe(Math.round(0.9 * 127));
  expect(bins.filter((value) => value > 20)).toHaveLength(1);
});

test('nothing has no bins', () => expect(smallWaveform(new Float32Array(0), 1)).toBe(''));
