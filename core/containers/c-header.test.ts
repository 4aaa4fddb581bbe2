import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { wholeOf } from '../bytes/index.ts';
import { encodingOf } from '../encodings/index.ts';
import { readPlain } from '../facts/index.ts';
import { InputError } from '../words/index.ts';
import { containerOf, packFile, safeIdentifier } from './index.ts';

const header = containerOf('c-header');

const write = (encodingId: string, data: Uint8Array, more = {}) => {
  const encoding = encodingOf(encodingId);
  const frames = data.length / encoding.bytesPerSample;
  const packed = {
    encoding,
    sampleRate: 16_000,
    channels: 1,
    frames,
    stem: 'doors_closing',
  };
  return packFile(header, { ...packed, ...more }, data);
};
const textOf = (bytes: Uint8Array) => new TextDecoder().decode(bytes);

describe('a C header', () => {
  test('says what it is and holds the samples as numbers', () => {
    expect(textOf(write('pcm-u8', Uint8Array.of(0, 128, 255)))).toBe(
      [
        '/* 8-bit unsigned PCM (pcm-u8), 16000 Hz, mono, 3 frames. */',
        '#ifndef DOORS_CLOSING_H',
        '#define DOORS_CLOSING_H',
        '',
        '#include <stdint.h>',
        '',
        '#define DOORS_CLOSING_SAMPLE_RATE 16000',
        '#define DOORS_CLOSING_CHANNELS 1',
        '#define DOORS_CLOSING_LENGTH 3',
        '',
        'static const uint8_t doors_closing[DOORS_CLOSING_LENGTH] = {',
        '  0, 128, 255,',
        '};',
        '',
        '#endif',
        '',
      ].join('\n'),
    );
  });

  test.each([
    'pcm-u8',
    'pcm-s8',
    'pcm-s16le',
  ])('%s: reads back as written, in lines of at most 100 characters', (id) => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 2, maxLength: 400 }), (bytes) => {
        const data = bytes.subarray(0, bytes.length - (bytes.length % 2));
        const written = write(id, data);
        const file = readPlain(written);
        expect(wholeOf(file.data)).toEqual(data);
        expect(file).toMatchObject({ container: 'c-header', sampleRate: 16_000, channels: 1 });
        expect(file.encoding.id).toBe(id);
        for (const line of textOf(written).split('\n')) expect(line.length).toBeLessThanOrEqual(100);
      }),
    );
  });

  test("the machine's C compiler reads the same bytes", () => {
    const folder = mkdtempSync(join(tmpdir(), 'c-header-'));
    try {
      const data = Uint8Array.from({ length: 512 }, (_, i) => (i * 37) % 256);
      writeFileSync(
        join(folder, 'sound.h'),
        write('pcm-s16le', data, { text: { storageAttribute: '__attribute__((aligned(4)))' } }),
      );
      writeFileSync(
        join(folder, 'main.c'),
        '#include <stdio.h>\n#include "sound.h"\nint main(void) { fwrite(doors_closing, sizeof doors_closing, 1, stdout); return DOORS_CLOSING_LENGTH != 256; }\n',
      );
      execFileSync('cc', ['-Wall', '-Werror', '-o', join(folder, 'main'), join(folder, 'main.c')]);
      // The machine is little-endian, as is the encoding.
      expect(new Uint8Array(execFileSync(join(folder, 'main')))).toEqual(data);
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  test.each([
    ['an array that ends too early', (text: string) => text.slice(0, text.indexOf('};'))],
    ['a value out of range', (text: string) => text.replace('128', '256')],
    ['a word among the values', (text: string) => text.replace('128', 'x')],
    ['a length that is wrong', (text: string) => text.replace('LENGTH 3', 'LENGTH 4')],
    ['no rate', (text: string) => text.replace('SAMPLE_RATE 16000', 'SAMPLE_RATE 0')],
  ])('with %s is refused', (_, harm) => {
    const text = harm(textOf(write('pcm-u8', Uint8Array.of(0, 128, 255))));
    expect(() => readPlain(new TextEncoder().encode(text))).toThrow(InputError);
  });

  test.each([
    ['doors-closing', 'doors_closing'],
    ['2nd bell', 'clip_2nd_bell'],
    ['switch', 'clip_switch'],
    ['über', 'ber'],
    ['---', 'clip'],
  ])('array name of %s: %s', (stem, name) => expect(safeIdentifier(stem)).toBe(name));
});

describe('headerless bytes', () => {
  const reading = { encoding: 'pcm-s16le', sampleRate: 8000, channels: 2 };

  test('are what they are said to be', () => {
    const file = readPlain(Uint8Array.of(0, 64, 0, 192, 1, 2, 3), reading);
    expect(file).toMatchObject({ container: 'headerless', frames: 1, sampleRate: 8000, channels: 2 });
    expect(file.extras).toEqual([{ name: 'incomplete last frame', bytes: 3 }]);
  });

  test.each([
    ['oki-adpcm', 1, 5, 10],
    ['ima-adpcm-low', 2, 6, 6],
    // Seven samples of five bits end in the fifth byte; its last five bits could be an eighth.
    ['pcm-u5-packed', 1, 5, 8],
    ['pcm-u5-packed', 1, 7, 11],
    ['pcm-s12le-left', 2, 9, 2],
    ['pcm-s24be', 1, 8, 2],
  ])('%s, %i channels: %i bytes behind two that are skipped are %i frames', (encoding, channels, size, frames) => {
    const bytes = Uint8Array.from({ length: size + 2 }, (_, i) => i * 37);
    const file = readPlain(bytes, { encoding, sampleRate: 8000, channels, skip: 2 });
    expect(file).toMatchObject({ container: 'headerless', frames, channels });
    const whole = file.codec.decode(wholeOf(file.data));
    expect(whole.length).toBeGreaterThanOrEqual(frames * channels);
  });

  test('bits that are not used are named for samples alone', () => {
    const read = (encoding: string, bits: number) =>
      readPlain(Uint8Array.of(1, 2, 3, 4), { encoding, sampleRate: 8000, channels: 1, bits });
    expect(read('pcm-u8', 5).usedBits).toBe(5);
    expect(() => read('pcm-u8', 9)).toThrow('A 8-bit unsigned PCM sample does not have 9 bits; give 1 to 8.');
  });

  test('without a statement, or too short, are refused', () => {
    expect(() => readPlain(Uint8Array.of(1, 2, 3, 4))).toThrow(/no known kind/);
    expect(() => readPlain(Uint8Array.of(1, 2), reading)).toThrow(/too short/);
  });
});
