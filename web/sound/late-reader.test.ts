import { type Pcm, pcmReader, resample } from '@tambur/core';
import { expect, test, vi } from 'vitest';

/** The worker's part, here in the same thread. */
const asked: number[] = [];
const remote = {
  atRate: (pcm: Pcm, rate: number): Pcm => {
    asked.push(pcm.channels[0]?.length ?? 0);
    return { sampleRate: rate, channels: pcm.channels.map((samples) => resample(samples, pcm.sampleRate, rate)) };
  },
};
vi.mock('./workers/workers.ts', () => ({
  previewWorker: { run: async <T>(call: (worker: typeof remote) => T) => call(remote) },
}));
const { atRate } = await import('./late-reader.ts');

const tone = (frames: number, rate: number): Float32Array =>
  Float32Array.from({ length: frames }, (_, i) => 0.5 * Math.sin((2 * Math.PI * 441 * i) / rate));

test('a long sound is brought to another rate part by part, and the parts join', async () => {
  const pcm = { sampleRate: 8000, channels: [tone(8000 * 600, 8000)] };
  const reader = atRate(pcmReader(pcm), 44_100);
  expect(reader.frames).toBe(44_100 * 600);
  asked.length = 0;
  // Across two borders of parts, from the middle of one.
  const [start, count] = [44_100 * 5 + 123, 44_100 * 9];
  const [samples] = await reader.read(start, count);
  expect(samples).toHaveLength(count);
  const wanted = tone(start + count, 44_100).subarray(start);
  let worst = 0;
  samples?.forEach((value, i) => {
    worst = Math.max(worst, Math.abs(value - (wanted[i] ?? 9)));
  });
  expect(worst).toBeLessThan(1e-4);
  expect(asked.length).toBe(3);
  expect(Math.max(...asked)).toBeLessThanOrEqual(8000 * 6);
  // At its end there is no more than there is.
  const [last] = await reader.read(44_100 * 599, 44_100 * 5);
  expect(last).toHaveLength(44_100);
});

test('a short one at once, and one of the same rate not at all', async () => {
  asked.length = 0;
  const short = { sampleRate: 8000, channels: [tone(8000, 8000)] };
  const reader = atRate(pcmReader(short), 16_000);
  const [samples] = await reader.read(4000, 8000);
  expect(samples).toHaveLength(8000);
  await reader.read(0, 100);
  expect(asked).toEqual([8000]);
  expect((await atRate(pcmReader(short), 8000).read(10, 5))[0]).toEqual(short.channels[0]?.subarray(10, 15));
  expect(asked).toEqual([8000]);
});
