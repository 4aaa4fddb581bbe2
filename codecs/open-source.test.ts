import { readFileSync } from 'node:fs';
import { InputError } from '@tambur/core';
import { parseBuffer } from 'music-metadata';
import { describe, expect, test } from 'vitest';
import { encodeVorbis, encodeWith, testSound } from './fixtures/encode.ts';
import { openSource } from './index.ts';

const stereo = testSound(44_100, 100_000, 2);
const mono = testSound(48_000, 60_000, 1);

/** Frames by which `decoded` is later than `original`, by the highest correlation within 2 000 frames. */
function delayOf(decoded: Float32Array, original: Float32Array): number {
  let best = 0;
  let at = 0;
  for (let shift = -2000; shift <= 2000; shift++) {
    let sum = 0;
    for (let i = 20_000; i < 40_000; i += 3) sum += decoded[i + shift] * original[i];
    if (sum > best) {
      best = sum;
      at = shift;
    }
  }
  return at;
}

const formats = [
  { kind: 'MP3', container: 'mp3', encoding: 'mp3', make: (sound: typeof stereo) => encodeWith('mp3', sound, 'Bell') },
  {
    kind: 'FLAC',
    container: 'flac',
    encoding: 'flac',
    make: (sound: typeof stereo) => encodeWith('flac', sound, 'Bell'),
  },
  {
    kind: 'AAC in MPEG-4',
    container: 'mp4',
    encoding: 'aac',
    make: (sound: typeof stereo) => encodeWith('mp4', sound, 'Bell'),
  },
  { kind: 'Vorbis', container: 'ogg', encoding: 'vorbis', make: encodeVorbis },
];

describe.each(formats)('$kind made by a reference encoder', ({ container, encoding, make, kind }) => {
  test.each([
    ['stereo, 44 100 Hz', stereo],
    ['mono, 48 000 Hz', mono],
  ])('%s: facts and sound', async (_, sound) => {
    const bytes = await make(sound);
    const { facts, pcm } = await openSource(bytes);
    const frames = sound.channels[0].length;
    expect(facts).toMatchObject({
      container,
      encoding,
      sampleRate: sound.sampleRate,
      channels: sound.channels.length,
      bytes: bytes.length,
      warnings: [],
      certainty: 'stated',
    });
    expect(pcm.channels[0]).toHaveLength(facts.frames);
    // These encoders of MP3 and AAC do not state how much they padded; all others give the exact length and place.
    const padding = { MP3: 2304, 'AAC in MPEG-4': 2048 }[kind] ?? 0;
    expect(facts.frames - frames).toBeGreaterThanOrEqual(0);
    expect(facts.frames - frames).toBeLessThanOrEqual(padding);
    const delay = delayOf(pcm.channels[0], sound.channels[0]);
    expect(delay).toBeGreaterThanOrEqual(0);
    expect(delay).toBeLessThanOrEqual(padding);
    expect(facts.levels.peak[0]).toBeGreaterThan(0.3);
    if (kind !== 'Vorbis') expect(facts.tags).toContainEqual({ name: 'title', value: 'Bell' });
  });

  test('facts agree with a second, independent reader', async () => {
    const bytes = await make(stereo);
    const { facts } = await openSource(bytes);
    const { format } = await parseBuffer(bytes);
    expect(facts.sampleRate).toBe(format.sampleRate);
    expect(facts.channels).toBe(format.numberOfChannels);
    if (container === 'flac') expect(facts.bitDepth).toBe(format.bitsPerSample);
    if (container === 'mp3') {
      // 128 kbit/s were asked for, constant.
      expect(facts.bitRateMode).toBe('constant');
      expect(Math.abs(facts.bitRate / (format.bitrate ?? 0) - 1)).toBeLessThan(0.02);
    }
  });

  test('cut off in its data: what is there, with a warning, or one clear refusal', async () => {
    const bytes = await make(stereo);
    const cut = bytes.subarray(0, Math.floor(bytes.length * 0.6));
    const { facts } = await openSource(cut);
    expect(facts.frames).toBeGreaterThan(30_000);
    expect(facts.frames).toBeLessThan(90_000);
    expect(facts.warnings.join()).toMatch(/^The file is cut off/);
  });

  test('cut off in its header: one sentence', async () => {
    const bytes = await make(stereo);
    await expect(openSource(bytes.subarray(0, 60))).rejects.toThrow(InputError);
  });
});

test.each([
  ['Opus', 'tone-440-hz-24000-frames.opus', { container: 'ogg', encoding: 'opus', sampleRate: 48_000, frames: 24_000 }],
  ['MP3', 'tone-440-hz-22050-frames.mp3', { container: 'mp3', encoding: 'mp3', sampleRate: 44_100, frames: 22_050 }],
])('%s: what the encoder put in front and behind is taken off, the length is exact', async (_, file, wanted) => {
  const bytes = readFileSync(new URL(`./fixtures/${file}`, import.meta.url));
  const { facts, pcm } = await openSource(bytes);
  expect(facts).toMatchObject({ ...wanted, channels: 2, warnings: [] });
  const middle = Math.round(wanted.frames / 2);
  const quarter = pcm.channels[0].subarray(middle, middle + wanted.sampleRate / 10);
  let crossings = 0;
  for (let i = 1; i < quarter.length; i++) if (quarter[i - 1] < 0 && quarter[i] >= 0) crossings++;
  // 440 Hz for a tenth of a second.
  expect(Math.abs(crossings - 44)).toBeLessThanOrEqual(1);
});

test('an MPEG-4 file whose index is missing is refused in words', async () => {
  const bytes = await encodeWith('mp4', stereo);
  const index = Buffer.from(bytes).indexOf('moov');
  const without = bytes.slice();
  without.set(new TextEncoder().encode('free'), index);
  await expect(openSource(without)).rejects.toThrow('The MPEG-4 file is damaged or cut off and cannot be decoded');
});

test('the content decides, never the name; core reads its own containers through the same door', async () => {
  const header = new TextEncoder().encode(
    '/* x */\n#ifndef X_H\n#define X_SAMPLE_RATE 8000\n#define X_CHANNELS 1\n#define X_LENGTH 2\nstatic const uint8_t x[X_LENGTH] = {0, 255};\n#endif\n',
  );
  expect((await openSource(header)).facts).toMatchObject({ container: 'c-header', encoding: 'pcm-u8', frames: 2 });
});

test.each([
  ['nothing', new Uint8Array(0), 'empty-file'],
  ['text', new TextEncoder().encode('Timetable of the upper station'), 'not-audio'],
  ['an MP3 tag without a frame', new TextEncoder().encode('ID3\u0003\u0000\u0000\u0000\u0000\u0000\u0000'), 'damaged'],
  ['a FLAC mark alone', new TextEncoder().encode('fLaC'), 'damaged'],
])('%s is refused as %s', async (_, bytes, code) => {
  await expect(openSource(bytes)).rejects.toMatchObject({ name: 'InputError', code });
});
