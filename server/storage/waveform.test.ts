import { PowersBuilder, peaksOf } from '@tambur/core';
import { expect, test } from 'vitest';
import { smallWaveform } from './waveform.ts';

const bytes = (base64 = '') => [...new Int8Array(Uint8Array.from(Buffer.from(base64, 'base64')).buffer)];

/** The finest powers of a sound; a bin has 256 frames. */
function powersOf(channels: readonly Float32Array[]): Float32Array {
  const builder = new PowersBuilder(channels.length);
  builder.add(channels);
  return builder.levels()[0] ?? new Float32Array(0);
}
const small = (channels: readonly Float32Array[]) => {
  const [extremes, levels] = smallWaveform(peaksOf(channels, 256).values, powersOf(channels), channels.length).split(
    '.',
  );
  return { extremes: bytes(extremes), levels: bytes(levels) };
};

test('a short sound keeps its bins, all channels together, the louder one for the effective value', () => {
  const square = Float32Array.from({ length: 512 }, (_, i) => (i < 256 ? (i % 2 ? 0.5 : -0.25) : i % 2 ? 1 : -1));
  const quiet = new Float32Array(512).fill(0.75, 0, 1);
  expect(small([square, quiet])).toEqual({
    extremes: [Math.round(-0.25 * 127), Math.round(0.75 * 127), -127, 127],
    // The root of the mean of 1/4 and 1/16 is 8.06 dB below full scale.
    levels: [8, 0],
  });
});

test('a long one has 96 bins, none of which misses a peak; silence is as far below as can be said', () => {
  const sound = Float32Array.from({ length: 100_000 }, (_, i) =>
    i === 77_777 ? 0.9 : i < 50_000 ? 0.1 * Math.sin(i) : 0,
  );
  const { extremes, levels } = small([sound]);
  expect(extremes).toHaveLength(192);
  expect(Math.max(...extremes)).toBe(Math.round(0.9 * 127));
  expect(extremes.filter((value) => value > 20)).toHaveLength(1);
  // A sine of 0.1: 20 dB for its peak, 3 dB more for its effective value.
  expect(new Set(levels.slice(0, 47))).toEqual(new Set([23]));
  expect(levels.at(-1)).toBe(127);
});

test('nothing has no bins', () => expect(smallWaveform(new Float32Array(0), new Float32Array(0), 1)).toBe(''));
