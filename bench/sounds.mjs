// Sounds for benchmarks.
import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';

export const RATE = 44_100;

/** One minute of stereo, 16 bit: two tones and some noise. */
export function minute() {
  const out = new Int16Array(2 * 60 * RATE);
  let seed = 1;
  for (let i = 0; i < 60 * RATE; i++) {
    seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
    const noise = (seed / 2 ** 31 - 1) * 1500;
    out[2 * i] = 9000 * Math.sin(i * 0.05) + noise;
    out[2 * i + 1] = 7000 * Math.sin(i * 0.08) - noise;
  }
  return out;
}

/** A WAV file of the same minute again and again. */
export async function writeWav(path, samples, minutes) {
  const bytes = Buffer.from(samples.buffer);
  const size = bytes.length * minutes;
  const head = Buffer.alloc(44);
  head.write('RIFF', 0);
  head.writeUInt32LE(size + 36, 4);
  head.write('WAVEfmt ', 8);
  for (const [at, value] of [
    [16, 16],
    [24, RATE],
    [28, RATE * 4],
    [40, size],
  ])
    head.writeUInt32LE(value, at);
  for (const [at, value] of [
    [20, 1],
    [22, 2],
    [32, 4],
    [34, 16],
  ])
    head.writeUInt16LE(value, at);
  head.write('data', 36);
  async function* parts() {
    yield head;
    for (let i = 0; i < minutes; i++) yield bytes;
  }
  await pipeline(parts, createWriteStream(path));
}

/** A short WAV file; another number gives other bytes. */
export function shortWav(number) {
  const frames = 4000;
  const bytes = Buffer.alloc(44 + 2 * frames);
  bytes.write('RIFF', 0);
  bytes.writeUInt32LE(bytes.length - 8, 4);
  bytes.write('WAVEfmt ', 8);
  for (const [at, value] of [
    [16, 16],
    [24, 16_000],
    [28, 32_000],
    [40, 2 * frames],
  ])
    bytes.writeUInt32LE(value, at);
  for (const [at, value] of [
    [20, 1],
    [22, 1],
    [32, 2],
    [34, 16],
  ])
    bytes.writeUInt16LE(value, at);
  bytes.write('data', 36);
  for (let i = 0; i < frames; i++) {
    bytes.writeInt16LE(
      Math.round(9000 * Math.exp(-i / (400 + number)) * Math.sin(i * (0.05 + number / 5000))),
      44 + 2 * i,
    );
  }
  return bytes;
}
