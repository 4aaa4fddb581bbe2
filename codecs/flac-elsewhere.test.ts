import { registerFlacEncoder } from '@mediabunny/flac-encoder';
import { AudioSample, AudioSampleSource, BufferTarget, MkvOutputFormat, Mp4OutputFormat, Output } from 'mediabunny';
import { beforeAll, expect, test } from 'vitest';
import { openSource } from './index.ts';

beforeAll(() => registerFlacEncoder());

// Lossless is lossless wherever it is kept: every sample of the library's files comes back as it was.
test.each([
  ['Matroska', new MkvOutputFormat(), 16],
  ['Matroska', new MkvOutputFormat(), 24],
  ['MPEG-4', new Mp4OutputFormat(), 16],
  ['MPEG-4', new Mp4OutputFormat(), 24],
] as const)('FLAC in %s: %# %i bits, to the last one', async (_, format, bits) => {
  const scale = 2 ** (bits - 1);
  const wanted = Float32Array.from({ length: 20_000 }, (__, i) => Math.round(0.9 * scale * Math.sin(i * i)) / scale);
  const output = new Output({ format, target: new BufferTarget() });
  const source = new AudioSampleSource({ codec: 'flac' });
  output.addAudioTrack(source);
  await output.start();
  const sample = new AudioSample({
    format: bits === 16 ? 's16-planar' : 'f32-planar',
    data: bits === 16 ? Int16Array.from(wanted, (value) => value * scale) : wanted,
    numberOfChannels: 1,
    sampleRate: 44_100,
    timestamp: 0,
  });
  await source.add(sample);
  sample.close();
  await output.finalize();
  const { facts, pcm } = await openSource(new Uint8Array(output.target.buffer ?? new ArrayBuffer(0)));
  expect(facts).toMatchObject({ encoding: 'flac', bitDepth: bits });
  expect(pcm.channels[0]).toEqual(wanted);
});
