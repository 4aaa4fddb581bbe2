import { readFileSync } from 'node:fs';
import {
  type ByteField,
  byteFieldsOf,
  containerOf,
  inMemory,
  packFile,
  sampleAt,
  USUAL_CONTAINER,
  wavFile,
} from '@tambur/core';
import fc from 'fast-check';
import { parseBuffer } from 'music-metadata';
import { describe, expect, test } from 'vitest';
import wavefile from 'wavefile';
import { plainEncodingOf } from '../core/encodings/index.ts';
import { encodeVorbis, encodeWith } from './fixtures/encode.ts';
import { testSound } from './fixtures/sounds.ts';

const { WaveFile } = wavefile as unknown as typeof import('wavefile');
const sound = testSound(22_050, 4000, 2);
const plain = (container: string, encoding: string) =>
  packFile(
    containerOf(container),
    {
      encoding: plainEncodingOf(encoding),
      sampleRate: 22_050,
      channels: 2,
      frames: 100,
      stem: 'x',
      tags: [{ name: 'title', value: 'Bell' }],
    },
    Uint8Array.from({ length: 100 * 2 * 2 }, (_, i) => i),
  );
const saidBy = (fields: readonly ByteField[], name: string) => fields.find((field) => field.name === name)?.value;
const start = (fields: readonly ByteField[], name: string) => fields.find((field) => field.name === name)?.start;

function expectInOrder(fields: readonly ByteField[], size: number): void {
  let before = 0;
  for (const { start: from, end } of fields) {
    expect(from).toBeGreaterThanOrEqual(before);
    expect(from).toBeLessThan(end);
    expect(end).toBeLessThanOrEqual(size);
    before = end;
  }
}

describe('what the bytes of a file say', () => {
  // Offsets of fields by the formats' own documents: RIFF and WAVE (IBM and Microsoft, 1991), AIFF (Apple, 1989), AU (Sun, 1992),
  // CAF (Apple, 2011), FLAC (RFC 9639), Ogg (RFC 3533), MPEG-4 (ISO 14496-12); all but the RFCs from memory.
  test.each<[string, () => Promise<Uint8Array> | Uint8Array, string, string | RegExp, number]>([
    ['WAV', () => plain('wav', 'pcm-s16le'), 'sample rate', '22\u202f050 Hz', 24],
    ['WAV, its sound', () => plain('wav', 'pcm-s16le'), 'samples', /^400 bytes$/, 44],
    ['WAV, a tag', () => plain('wav', 'pcm-s16le'), 'INAM', /^Bell/, 464],
    ['AIFF', () => plain('aiff', 'pcm-s16be'), 'sample rate', '22\u202f050 Hz', 28],
    ['AU', () => plain('au', 'pcm-s16be'), 'sample rate', '22\u202f050 Hz', 16],
    ['CAF', () => plain('caf', 'pcm-s16be'), 'sample rate', '22\u202f050 Hz', 20],
    [
      'FLAC',
      () => encodeWith('flac', sound),
      'rate, channels, depth, frames',
      /^22\u202f050 Hz, stereo, \d+ bit, 4\u202f000 frames$/,
      18,
    ],
    ['Ogg', () => encodeVorbis(testSound(44_100, 9000, 1)), 'page', 'OggS', 0],
    ['MPEG-4', () => encodeWith('mp4', testSound(44_100, 9000, 1)), 'box', 'ftyp', 4],
    ['MP3', () => encodeWith('mp3', testSound(44_100, 9000, 2)), 'header of the first frame', /^layer 3, /, 0],
  ])('%s: the field is where its format has it', async (_, make, name, value, at) => {
    const bytes = await make();
    const fields = byteFieldsOf(inMemory(bytes), false);
    expect(start(fields, name)).toBe(at);
    expect(saidBy(fields, name)).toMatch(value);
    // One behind the other, to the last byte.
    expect(fields.map((field) => field.start)).toEqual([0, ...fields.map((field) => field.end).slice(0, -1)]);
    expect(fields.at(-1)?.end).toBe(bytes.length);
  });

  test('the rate and the depth of a FLAC file are those that another reader finds', async () => {
    const bytes = await encodeWith('flac', sound);
    const { sampleRate, bitsPerSample } = (await parseBuffer(bytes)).format;
    expect(saidBy(byteFieldsOf(inMemory(bytes), false), 'rate, channels, depth, frames')).toBe(
      `${String(sampleRate).replace('22', '22\u202f')} Hz, stereo, ${bitsPerSample} bit, 4\u202f000 frames`,
    );
  });

  test('a sample is the one that another reader finds', () => {
    const bytes = wavFile(sound, 16);
    const file = inMemory(bytes);
    const samples = byteFieldsOf(file, false).find(({ kind }) => kind === 'sound');
    const facts = { encoding: 'pcm-s16le', channels: 2, sampleRate: 22_050 };
    const [left, right] = new WaveFile(bytes).getSamples() as unknown as number[][];
    for (const frame of [0, 1, 777, 3999]) {
      const found = samples && sampleAt(file, facts, samples, 44 + 4 * frame + 3);
      expect(found).toEqual({
        frame,
        start: 44 + 4 * frame,
        end: 48 + 4 * frame,
        values: [(left?.[frame] ?? 0) / 32_768, (right?.[frame] ?? 0) / 32_768],
      });
    }
    expect(samples && sampleAt(file, facts, samples, bytes.length + 9)).toBeNull();
    expect(samples && sampleAt(file, { ...facts, encoding: 'mp3' }, samples, 50)).toBeNull();
  });

  test('bare bytes are sound from the first on', () => {
    expect(byteFieldsOf(inMemory(new Uint8Array(9)), true)).toMatchObject([{ start: 0, end: 9, kind: 'sound' }]);
  });

  test('whatever the bytes, fields stay within them, in order, and are not many', () => {
    const heads = ['RIFF', 'RIFX', 'FORM', '.snd', 'caff', 'fLaC', 'OggS', 'ID3', '\xff\xfb'];
    const any = fc.tuple(fc.constantFrom(...heads), fc.uint8Array({ maxLength: 400 }));
    fc.assert(
      fc.property(any, ([head, rest]) => {
        const bytes = Uint8Array.from([...Buffer.from(head, 'latin1'), ...rest]);
        const fields = byteFieldsOf(inMemory(bytes), false);
        expect(fields.length).toBeLessThanOrEqual(401);
        expectInOrder(fields, bytes.length);
      }),
      { numRuns: 400 },
    );
  });

  test.each([
    ['aiff', 'pcm-s16be', 'SSND'],
    ['caf', 'pcm-s16be', 'data'],
  ])('%s: a chunk of sound that states less than its own head is nothing, and what is behind it stays where it is', (container, encoding, id) => {
    const bytes = Uint8Array.from(plain(container, encoding));
    const size = Buffer.from(bytes).indexOf(id) + 4 + (container === 'caf' ? 7 : 3);
    for (let stated = 0; stated < 8; stated++) {
      bytes.fill(0, Buffer.from(bytes).indexOf(id) + 4, size);
      bytes[size] = stated;
      expectInOrder(byteFieldsOf(inMemory(bytes), false), bytes.length);
    }
  });
});

test('a file of the demo is read as its container', () => {
  const bytes = new Uint8Array(readFileSync(new URL('../demo/sounds/platform-bell.flac', import.meta.url)));
  expect(saidBy(byteFieldsOf(inMemory(bytes), false), 'kind of file')).toBe('fLaC');
  expect(USUAL_CONTAINER).toBe('wav');
});
