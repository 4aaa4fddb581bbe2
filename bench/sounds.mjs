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

/** The header of a WAV file of 16-bit samples, so many bytes of them. */
export function wavHead(rate, channels, size) {
  const head = Buffer.alloc(44);
  head.write('RIFF', 0);
  head.writeUInt32LE(size + 36, 4);
  head.write('WAVEfmt ', 8);
  for (const [at, value] of [
    [16, 16],
    [24, rate],
    [28, rate * 2 * channels],
    [40, size],
  ])
    head.writeUInt32LE(value, at);
  for (const [at, value] of [
    [20, 1],
    [22, channels],
    [32, 2 * channels],
    [34, 16],
  ])
    head.writeUInt16LE(value, at);
  head.write('data', 36);
  return head;
}

/** A WAV file of the same minute again and again. */
export async function writeWav(path, samples, minutes) {
  const bytes = Buffer.from(samples.buffer);
  const size = bytes.length * minutes;
  const head = wavHead(RATE, 2, size);
  async function* parts() {
    yield head;
    for (let i = 0; i < minutes; i++) yield bytes;
  }
  await pipeline(parts, createWriteStream(path));
}

/** A short WAV file; another number gives other bytes. */
export function shortWav(number) {
  const frames = 4000;
  const bytes = Buffer.concat([wavHead(16_000, 1, 2 * frames), Buffer.alloc(2 * frames)]);
  for (let i = 0; i < frames; i++) {
    bytes.writeInt16LE(
      Math.round(9000 * Math.exp(-i / (400 + number)) * Math.sin(i * (0.05 + number / 5000))),
      44 + 2 * i,
    );
  }
  return bytes;
}
