import { createHash } from 'node:crypto';
import { type EncoderOrder, inMemory, openStream, type Tag, unwatched, viewOf } from '@tambur/core';
import { parseBuffer } from 'music-metadata';
import { describe, expect, test } from 'vitest';
import { library, openSource, openSourceStream } from '../index.ts';
import { mp4File } from './mp4.ts';

const RATE = 44_100;

/** A tone of each channel's own between two stretches of silence, so that alignment shows. */
function sound(frames: number, channels: number, rate = RATE): Float32Array[] {
  return Array.from({ length: channels }, (_, channel) =>
    Float32Array.from({ length: frames }, (__, i) =>
      i < frames * 0.2 || i > frames * 0.8 ? 0 : 0.4 * Math.sin((2 * Math.PI * (440 + 110 * channel) * i) / rate),
    ),
  );
}

const usual: EncoderOrder = {
  encoding: 'mp3',
  sampleRate: RATE,
  channels: 2,
  frames: 0,
  bitRate: 128_000,
  stereoMode: 'joint',
  infoFrame: true,
  bits: 0,
  tags: [],
};

/** Encodes in pieces of a size that fits no block of any encoder. */
async function encode(
  channels: readonly Float32Array[],
  order: Partial<EncoderOrder>,
): Promise<Uint8Array<ArrayBuffer>> {
  const frames = channels[0]?.length ?? 0;
  const encoder = await library.openEncoder({ ...usual, channels: channels.length, frames, ...order });
  const parts: Uint8Array[] = [];
  for (let at = 0; at < frames; at += 7001) {
    parts.push((await encoder.push(channels.map((samples) => samples.slice(at, at + 7001)))).slice());
  }
  parts.push(await encoder.finish());
  await encoder.close();
  const bytes = new Uint8Array(Buffer.concat(parts));
  for (const amendment of encoder.amendments?.() ?? []) bytes.set(amendment.bytes, amendment.at);
  return bytes;
}

/** By how many frames `got` lags behind `wanted`, from the highest correlation within reach. */
function lagOf(got: Float32Array, wanted: Float32Array): number {
  let best = 0;
  let highest = Number.NEGATIVE_INFINITY;
  for (let lag = -60; lag <= 60; lag++) {
    let sum = 0;
    for (let i = 100; i < wanted.length - 100; i++) sum += wanted[i] * (got[i + lag] ?? 0);
    if (sum > highest) {
      highest = sum;
      best = lag;
    }
  }
  return best;
}

describe('files of every encoder have the length that went in, in place to the frame', () => {
  test.each([
    ['mp3', RATE, 1, 128_000, {}],
    ['mp3', RATE, 2, 320_000, {}],
    ['mp3', RATE, 2, 192_000, { stereoMode: 'stereo' }],
    ['mp3', 22_050, 1, 64_000, {}],
    ['mp3', 8000, 1, 32_000, {}],
    ['aac', RATE, 2, 128_000, {}],
    ['aac', 16_000, 1, 64_000, {}],
    ['vorbis', RATE, 2, 128_000, {}],
    ['vorbis', 16_000, 1, 64_000, {}],
    ['opus', 48_000, 1, 64_000, {}],
    ['opus', 48_000, 2, 96_000, {}],
    ['flac', RATE, 2, 0, { bits: 16 }],
    ['flac', 96_000, 1, 0, { bits: 24 }],
  ] as const)('%s, %i Hz, %i channels, %i bit/s %j', async (encoding, sampleRate, channels, bitRate, more) => {
    const frames = Math.round(sampleRate * 0.73) + 1;
    const wanted = sound(frames, channels, sampleRate);
    const bytes = await encode(wanted, { encoding, sampleRate, bitRate, ...more });
    const { facts, pcm } = await openSource(bytes);
    expect(facts).toMatchObject({ encoding, sampleRate, channels, frames, warnings: [] });
    for (const [channel, samples] of pcm.channels.entries()) expect(lagOf(samples, wanted[channel])).toBe(0);
    const second = await library.readAgain(inMemory(bytes), unwatched);
    expect(second).toMatchObject({ encoding, sampleRate, channels });
  });

  // Common practice, no source: at these rates a plain tone comes out better than 20 dB.
  test.each([
    ['mp3', RATE, 128_000],
    ['mp3', 22_050, 64_000],
    ['aac', RATE, 128_000],
    ['vorbis', RATE, 128_000],
    ['opus', 48_000, 96_000],
  ] as const)('%s, %i Hz: sound that begins at once and ends at once is whole', async (encoding, sampleRate, bitRate) => {
    const frames = 30_011;
    const wanted = Float32Array.from(
      { length: frames },
      (_, i) => 0.7 * Math.cos((2 * Math.PI * 660 * i) / sampleRate),
    );
    const { pcm } = await openSource(await encode([wanted], { encoding, sampleRate, bitRate }));
    const signalToNoise = (from: number, to: number) => {
      let [signal, noise] = [0, 0];
      for (let i = from; i < to; i++) {
        signal += wanted[i] ** 2;
        noise += (pcm.channels[0][i] - wanted[i]) ** 2;
      }
      return 10 * Math.log10(signal / noise);
    };
    expect(signalToNoise(5000, 25_000)).toBeGreaterThan(20);
    // The jump itself is blurred; it must not spoil what is near it.
    expect(signalToNoise(0, 3000)).toBeGreaterThan(10);
    expect(signalToNoise(frames - 3000, frames)).toBeGreaterThan(10);
  });

  test.each([
    [16, 16],
    [24, 24],
  ])('FLAC of %i bits keeps every sample', async (bits, depth) => {
    const scale = 2 ** (bits - 1);
    let state = 7;
    const noise = Float32Array.from({ length: 20_000 }, () => {
      state = (state * 1_103_515_245 + 12_345) % 2 ** 31;
      return (Math.floor(state / 2 ** (31 - bits)) - scale) / scale;
    });
    const reversed = noise.toReversed();
    const bytes = await encode([noise, reversed], { encoding: 'flac', bits });
    const { facts, pcm } = await openSource(bytes);
    expect(facts.bitDepth).toBe(depth);
    expect(pcm.channels).toEqual([noise, reversed]);
    // RFC 9639, 8.2: MD5 of the samples, frame by frame, little-endian; by another implementation of it.
    const sum = createHash('md5');
    const sample = Buffer.alloc(bits / 8);
    for (let i = 0; i < noise.length; i++) {
      for (const channel of [noise, reversed]) {
        sample.writeIntLE(Math.round(channel[i] * scale), 0, bits / 8);
        sum.update(sample);
      }
    }
    expect(Buffer.from(bytes.subarray(26, 42)).toString('hex')).toBe(sum.digest('hex'));
    // Sizes of the smallest and the largest frame, in 24 bits each.
    const [least, most] = [12, 15].map((at) => viewOf(bytes).getUint32(at - 1) & 0xff_ffff);
    expect(least).toBeGreaterThan(0);
    expect(most).toBeGreaterThanOrEqual(least);
  });
});

/** kbit/s of MPEG-1 layer III by index (ISO/IEC 11172-3, 2.4.2.3; from memory). */
const KBIT = [0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320];

/** Every frame of an MPEG-1 layer III stream, parsed by the header alone; fails where anything else is. */
function mp3Frames(bytes: Uint8Array) {
  const frames: { kbit: number; rate: number; mode: number }[] = [];
  for (let at = 0; at < bytes.length; ) {
    expect([bytes[at], bytes[at + 1]]).toEqual([0xff, 0xfb]);
    const kbit = KBIT[bytes[at + 2] >> 4];
    const rate = [44_100, 48_000, 32_000][(bytes[at + 2] >> 2) & 3];
    frames.push({ kbit, rate, mode: bytes[at + 3] >> 6 });
    at += Math.floor((144_000 * kbit) / rate) + ((bytes[at + 2] >> 1) & 1);
    expect(at).toBeLessThanOrEqual(bytes.length);
  }
  return frames;
}

// ISO/IEC 11172-3, 2.4.1.3: the mode is 0 for stereo, 1 for joint stereo, 3 for one channel.
describe('MP3, frame by frame', () => {
  test('an encoder that is used again, even one that was left in the middle, leaves nothing behind', async () => {
    const quiet = sound(9000, 2);
    const first = await encode(quiet, {});
    const left = await library.openEncoder({ ...usual, frames: 50_000, bitRate: 320_000 });
    await left.push(sound(20_000, 2).map((samples) => samples.map((value) => -value)));
    await left.close();
    expect(await encode(quiet, {})).toEqual(first);
  });

  test.each([
    [320_000, 2, 'joint', 1],
    [128_000, 2, 'joint', 1],
    [192_000, 2, 'stereo', 0],
    [64_000, 1, 'joint', 3],
  ] as const)('%i bit/s, %i channels as %s: nothing but frames, all alike', async (bitRate, channels, stereoMode, mode) => {
    const bytes = await encode(sound(RATE, channels), { bitRate, stereoMode, infoFrame: false });
    const frames = mp3Frames(bytes);
    expect(frames.length).toBeGreaterThan(38);
    for (const frame of frames) expect(frame).toEqual({ kbit: bitRate / 1000, rate: 44_100, mode });
    for (const mark of ['ID3', 'TAG', 'APETAG', 'Info', 'Xing']) expect(Buffer.from(bytes).includes(mark)).toBe(false);
  });

  test('the information frame is a frame like the others, and states what another reader finds', async () => {
    const frames = 30_001;
    const bytes = await encode(sound(frames, 2), { bitRate: 128_000 });
    expect(mp3Frames(bytes).every(({ kbit, mode }) => kbit === 128 && mode === 1)).toBe(true);
    const { format } = await parseBuffer(bytes, { mimeType: 'audio/mpeg' }, { duration: true });
    expect(format).toMatchObject({ codecProfile: 'CBR', bitrate: 128_000, numberOfChannels: 2, sampleRate: RATE });
    // It counts frames of 1 152, with the one of information and what fills the last.
    expect(Math.abs((format.duration ?? 0) - frames / RATE)).toBeLessThan((3 * 1152) / RATE);
  });
});

interface Box {
  readonly type: string;
  readonly body: Uint8Array;
}

/** The boxes of an MPEG-4 file or of one of its boxes (ISO/IEC 14496-12, 4.2). */
function boxes(bytes: Uint8Array): Box[] {
  const found: Box[] = [];
  for (let at = 0; at < bytes.length; ) {
    const size = viewOf(bytes).getUint32(at);
    expect(size).toBeGreaterThanOrEqual(8);
    expect(at + size).toBeLessThanOrEqual(bytes.length);
    found.push({
      type: String.fromCharCode(...bytes.subarray(at + 4, at + 8)),
      body: bytes.subarray(at + 8, at + size),
    });
    at += size;
  }
  return found;
}

const inside = (bytes: Uint8Array, ...path: readonly string[]): Uint8Array =>
  path.reduce((body, type) => boxes(body).find((box) => box.type === type)!.body, bytes);

// ISO/IEC 14496-12, 8.6.6 (edit list), 8.7 (tables), and -14 (esds), from memory.
test('AAC in MPEG-4, box by box: index in front, edit list, tables that point at the packets', async () => {
  const frames = 50_000;
  const bytes = await encode(sound(frames, 2), { encoding: 'aac' });
  expect(boxes(bytes).map(({ type }) => type)).toEqual(['ftyp', 'moov', 'mdat']);
  const track = inside(bytes, 'moov', 'trak');
  const edit = viewOf(inside(track, 'edts', 'elst'));
  expect([edit.getUint32(4), edit.getUint32(8), edit.getUint32(12)]).toEqual([1, frames, 2048]);
  const table = inside(track, 'mdia', 'minf', 'stbl');
  const sizes = viewOf(inside(table, 'stsz'));
  const count = sizes.getUint32(8);
  expect(count).toBeGreaterThanOrEqual(Math.ceil((frames + 2048) / 1024));
  const total = Array.from({ length: count }, (_, i) => sizes.getUint32(12 + 4 * i)).reduce((a, b) => a + b, 0);
  expect(total).toBe(inside(bytes, 'mdat').length);
  const offsets = viewOf(inside(table, 'stco'));
  expect(offsets.getUint32(8)).toBe(bytes.length - total);
  const times = viewOf(inside(table, 'stts'));
  expect([times.getUint32(8), times.getUint32(12)]).toEqual([count, 1024]);
  const description = inside(table, 'stsd').subarray(8);
  const [entry] = boxes(description);
  expect(entry.type).toBe('mp4a');
  // Object type 2 of AudioSpecificConfig is AAC-LC (ISO/IEC 14496-3, 1.5.1).
  const config = Buffer.from(entry.body).indexOf(Buffer.of(5, 5)) + 2;
  expect(entry.body[config] >> 3).toBe(2);
});

// An hour has more packets than a call can have arguments.
test('the index of very many packets', () => {
  const packets = new Array<Uint8Array>(160_000).fill(Uint8Array.of(1));
  const bytes = mp4File({
    sampleRate: RATE,
    channels: 1,
    bitRate: 64_000,
    config: Uint8Array.of(0x12, 0x08),
    packets,
    packetFrames: 1024,
    delay: 1024,
    frames: 160_000 * 1024 - 2048,
    tags: [],
  });
  const table = inside(bytes, 'moov', 'trak', 'mdia', 'minf', 'stbl');
  expect(viewOf(inside(table, 'stsz')).getUint32(8)).toBe(160_000);
  // 32 packets in each of 5 000 chunks: one run says it all.
  expect([...inside(table, 'stsc')].slice(4)).toEqual([0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 32, 0, 0, 0, 1]);
  const offsets = viewOf(inside(table, 'stco'));
  expect([offsets.getUint32(4), offsets.getUint32(12) - offsets.getUint32(8)]).toEqual([5000, 32]);
});

describe('tags, as another reader finds them', () => {
  const tags: Tag[] = [
    { name: 'title', value: 'Glöckchen am Hügel' },
    { name: 'artist', value: 'Pinder Hill' },
    { name: 'album', value: 'Open day' },
    { name: 'comment', value: 'second take \u2013 \u266a' },
  ];

  test.each([
    ['mp3', 'audio/mpeg', {}],
    ['mp3', 'audio/mpeg', { infoFrame: false }],
    ['aac', 'audio/mp4', {}],
    ['flac', 'audio/flac', { bits: 16 }],
    ['vorbis', 'audio/ogg', {}],
    ['opus', 'audio/ogg', { sampleRate: 48_000 }],
  ] as const)('%s, %s %j', async (encoding, mimeType, more) => {
    const bytes = await encode(sound(20_000, 1), { encoding, tags, ...more });
    const { common } = await parseBuffer(bytes, { mimeType });
    expect(common).toMatchObject({ title: tags[0].value, artist: tags[1].value, album: tags[2].value });
    expect(common.comment?.map((entry) => (typeof entry === 'string' ? entry : entry.text))).toEqual([tags[3].value]);
    const own = (await openStream(await openSourceStream(inMemory(bytes)))).facts.tags;
    for (const tag of tags) expect(own).toContainEqual(tag);
    const without = await encode(sound(20_000, 1), { encoding, ...more });
    expect((await openSource(without)).facts.tags).toEqual([]);
  });
});
