import { readFileSync } from 'node:fs';
import { InputError } from '@tambur/core';
import { parseBuffer } from 'music-metadata';
import { describe, expect, test } from 'vitest';
import { encodeVorbis, encodeWith } from './fixtures/encode.ts';
import { knownSounds, testSound } from './fixtures/sounds.ts';
import { openSource } from './index.ts';

const stereo = testSound(44_100, 100_000, 2);
const mono = testSound(48_000, 60_000, 1);

/** Frames by which `decoded` is later than `original`, by the highest correlation within 2 100 frames. */
function delayOf(decoded: Float32Array, original: Float32Array): number {
  let best = 0;
  let at = 0;
  const [from, to] = [0.4, 0.6].map((part) => Math.round(part * original.length));
  for (let shift = -2100; shift <= 2100; shift++) {
    let sum = 0;
    for (let i = from; i < to; i += 2) sum += (decoded[i + shift] ?? 0) * original[i];
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

const file = (name: string) => new Uint8Array(readFileSync(new URL(`./fixtures/files/${name}`, import.meta.url)));

/**
 * Files that other encoders and multiplexers made of known sounds (fixtures/make-files.sh). `surplus` is what the format
 * states no length of: what is decoded may be so many frames longer; `delay` likewise of the start.
 */
const madeFiles: readonly {
  name: string;
  track?: number;
  sound: keyof typeof knownSounds;
  facts: object;
  surplus?: readonly [number, number];
  delay?: readonly [number, number];
}[] = [
  {
    name: 'tone.mp3',
    sound: 'sound-44100',
    facts: { container: 'mp3', encoding: 'mp3', bitRate: 128_000, bitRateMode: 'constant' },
  },
  {
    name: 'tone-variable.mp3',
    sound: 'other-48000',
    facts: { container: 'mp3', encoding: 'mp3', bitRateMode: 'variable' },
  },
  { name: 'tone.opus', sound: 'sound-48000', facts: { container: 'ogg', encoding: 'opus' } },
  { name: 'tone.ogg', sound: 'sound-44100', facts: { container: 'ogg', encoding: 'vorbis' } },
  { name: 'tone.flac', sound: 'sound-44100', facts: { container: 'flac', encoding: 'flac', bitDepth: 16 } },
  { name: 'tone-alac.m4a', sound: 'sound-44100', facts: { container: 'mp4', encoding: 'alac', bitDepth: 16 } },
  {
    name: 'tone-pcm.caf',
    sound: 'sound-44100',
    facts: { container: 'caf', encoding: 'pcm-s16be', bitRate: 1_411_200 },
  },
  { name: 'tone-opus.webm', sound: 'sound-48000', facts: { container: 'webm', encoding: 'opus' } },
  { name: 'adpcm-ima.wav', sound: 'sound-22050', facts: { container: 'wav', encoding: 'ima-adpcm', bitDepth: 4 } },
  { name: 'adpcm-ima-mono.wav', sound: 'sound-mono-8000', facts: { container: 'wav', encoding: 'ima-adpcm' } },
  { name: 'adpcm-ms.wav', sound: 'sound-22050', facts: { container: 'wav', encoding: 'ms-adpcm', bitDepth: 4 } },
  // No edit list: the last packet's filling stays.
  { name: 'tone-aac.m4r', sound: 'sound-44100', facts: { container: 'mp4', encoding: 'aac' }, surplus: [0, 1024] },
  { name: 'tone-aac.mov', sound: 'sound-44100', facts: { container: 'mov', encoding: 'aac' }, surplus: [0, 1024] },
  { name: 'tone.aac', sound: 'sound-44100', facts: { container: 'adts', encoding: 'aac' }, surplus: [0, 1024] },
  // AMR: frames of 20 ms; the encoder of the narrow one leaves out what does not fill the last.
  {
    name: 'tone.amr',
    sound: 'sound-mono-8000',
    facts: { container: 'amr', encoding: 'amr-nb' },
    surplus: [-160, 160],
    delay: [0, 80],
  },
  {
    name: 'tone-wide.amr',
    sound: 'sound-mono-16000',
    facts: { container: 'amr', encoding: 'amr-wb' },
    surplus: [0, 320],
    delay: [0, 160],
  },
  // WMA states no delay: the library takes off two blocks of 2 048, the encoder of this file put one in.
  {
    name: 'tone.wma',
    sound: 'sound-44100',
    facts: { container: 'asf', encoding: 'wma', bitRate: 96_000 },
    surplus: [-2048, 2048],
    delay: [-2048, 2048],
  },
  { name: 'two-tracks.avi', sound: 'sound-44100', facts: { container: 'avi', encoding: 'pcm-s16le', bitDepth: 16 } },
  {
    name: 'two-tracks.avi',
    track: 1,
    sound: 'other-48000',
    facts: { container: 'avi', encoding: 'mp3' },
    surplus: [0, 2304],
    delay: [0, 1105],
  },
  {
    name: 'two-tracks.mkv',
    sound: 'sound-44100',
    facts: { container: 'matroska', encoding: 'vorbis' },
    surplus: [0, 1024],
  },
  {
    name: 'two-tracks.mkv',
    track: 1,
    sound: 'other-48000',
    facts: { container: 'matroska', encoding: 'mp3' },
    surplus: [0, 2304],
    delay: [0, 1105],
  },
  { name: 'two-tracks.mp4', sound: 'sound-44100', facts: { container: 'mp4', encoding: 'aac' }, surplus: [0, 1024] },
  {
    name: 'two-tracks.mp4',
    track: 1,
    sound: 'other-48000',
    facts: { container: 'mp4', encoding: 'mp3' },
    surplus: [0, 2304],
    delay: [0, 1105],
  },
  {
    name: 'two-tracks.mpg',
    sound: 'other-48000',
    facts: { container: 'program-stream', encoding: 'mp2', bitRate: 128_000 },
    surplus: [0, 1152],
    delay: [0, 481],
  },
  {
    name: 'two-tracks.mpg',
    track: 1,
    sound: 'sound-48000',
    facts: { container: 'program-stream', encoding: 'ac3', bitRate: 192_000 },
    surplus: [0, 1536],
    delay: [0, 256],
  },
];

test.each(madeFiles)('$name, sound $track: facts, length, place', async ({
  name,
  track,
  sound,
  facts,
  surplus = [0, 0],
  delay = [0, 0],
}) => {
  const bytes = file(name);
  const known = knownSounds[sound];
  const opened = await openSource(bytes, { track });
  const { pcm } = opened;
  expect(opened.facts).toMatchObject({
    ...facts,
    sampleRate: known.sampleRate,
    channels: known.channels.length,
    bytes: bytes.length,
    warnings: [],
    track: track ?? 0,
  });
  expect(opened.facts.tracks).toHaveLength(name.startsWith('two-tracks') ? 2 : 0);
  expect(pcm.channels[0]).toHaveLength(opened.facts.frames);
  const more = opened.facts.frames - known.channels[0].length;
  expect(more).toBeGreaterThanOrEqual(surplus[0]);
  expect(more).toBeLessThanOrEqual(surplus[1]);
  const late = delayOf(pcm.channels[0], known.channels[0]);
  expect(late).toBeGreaterThanOrEqual(delay[0] - 1);
  expect(late).toBeLessThanOrEqual(delay[1] + 1);
});

describe('a file that ends at six tenths of its bytes', () => {
  const cut = (name: string) => {
    const bytes = file(name);
    return bytes.subarray(0, Math.floor(bytes.length * 0.6) + 1);
  };

  test.each([
    ['tone.wma', 'sound-44100', /^The file is cut off: it promises/],
    ['tone-opus.webm', 'sound-48000', /^The file is cut off: it promises/],
    ['tone.aac', 'sound-44100', /^The file is cut off: its last frame is incomplete/],
    ['tone.amr', 'sound-mono-8000', /^The file is cut off: its last frame is incomplete/],
    ['tone-pcm.caf', 'sound-44100', /^The file is cut off: its header promises/],
    ['adpcm-ima.wav', 'sound-22050', /^The file is cut off: its header promises/],
    ['adpcm-ms.wav', 'sound-22050', /^The file is cut off: its header promises/],
    ['tone.flac', 'sound-44100', /^The file is cut off: its header promises/],
    ['tone.opus', 'sound-48000', /^The file is cut off: its last page/],
  ] as const)('%s is read as far as it goes, and says so', async (name, sound, words) => {
    const { facts, pcm } = await openSource(cut(name));
    const whole = knownSounds[sound].channels[0].length;
    expect(facts.frames / whole).toBeGreaterThan(0.25);
    expect(facts.frames / whole).toBeLessThan(0.8);
    expect(pcm.channels[0]).toHaveLength(facts.frames);
    expect(facts.warnings.join()).toMatch(words);
  });

  test.each([
    'tone-alac.m4a',
    'tone-aac.mov',
    'two-tracks.mp4',
  ])('%s, whose index stands behind its sound, is refused', async (name) => {
    await expect(openSource(cut(name))).rejects.toThrow(/damaged or cut off/);
  });
});

test.each([
  ['two-tracks.mkv', 2, 'The Matroska file has no sound number 3; choose one from 1 to 2.'],
  ['two-tracks.avi', 5, 'The AVI file has no sound number 6; choose one from 1 to 2.'],
  ['two-tracks.mpg', 2, 'The MPEG file has no sound number 3; choose one from 1 to 2.'],
])('%s, sound %i: there is none, in words', async (name, track, words) => {
  await expect(openSource(file(name), { track })).rejects.toThrow(words);
});

test('AAC with an edit list: the length and the place that it states, to the frame', async () => {
  // An edit list of one entry and the movie's clock set to 44 100 Hz, by hand (ISO/IEC 14496-12, 8.2.2 and 8.6.6).
  const bytes = file('tone-aac.m4r');
  const view = new DataView(bytes.buffer);
  const find = (box: string) => Buffer.from(bytes.buffer).indexOf(box) + 4;
  const frames = knownSounds['sound-44100'].channels[0].length;
  view.setUint32(find('mvhd') + 12, 44_100);
  view.setUint32(find('elst') + 8, frames);
  // The encoder's delay of 1 024 frames is what the reference decoders of AAC expect (common practice, no source).
  view.setUint32(find('elst') + 12, 1024);
  const { facts, pcm } = await openSource(bytes);
  expect(facts.frames).toBe(frames);
  expect(Math.abs(delayOf(pcm.channels[0], knownSounds['sound-44100'].channels[0]))).toBeLessThanOrEqual(1);
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
    '/* 8-bit unsigned PCM (pcm-u8), 8000 Hz, mono, 2 frames. */\n#ifndef X_H\n#define X_SAMPLE_RATE 8000\n#define X_CHANNELS 1\n#define X_LENGTH 2\nstatic const uint8_t x[X_LENGTH] = {0, 255};\n#endif\n',
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
