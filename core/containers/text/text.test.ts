import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { wholeOf } from '../../bytes/index.ts';
import { bytesOf, layoutOf, plainEncodingOf } from '../../encodings/index.ts';
import { readPlain } from '../../facts/index.ts';
import { InputError } from '../../words/index.ts';
import { containerOf, packFile, type TextOptions } from '../index.ts';

const FRAMES = 500;

function write(form: string, encodingId: string, data: Uint8Array, frames: number, text: Partial<TextOptions> = {}) {
  const encoding = plainEncodingOf(encodingId);
  return packFile(
    containerOf(form),
    { encoding, sampleRate: 16_000, channels: 1, frames, stem: 'doors-closing', text },
    data,
  );
}

/** Bytes of so many frames, all different enough to notice a slip. */
function bytesFor(encodingId: string, frames: number): Uint8Array {
  const encoding = plainEncodingOf(encodingId);
  const size = bytesOf(encoding, frames, layoutOf(encoding, 1, 16_000));
  return Uint8Array.from({ length: size }, (_, i) => (i * 37 + 11) % 256);
}

const textOf = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const forms = ['c-header', 'c-source', 'assembler', 'python', 'rust', 'json', 'intel-hex'];
const reading = (encoding: string) => ({ encoding, sampleRate: 16_000, channels: 1 });

describe.each(forms)('%s', (form) => {
  test.each([
    'pcm-u8',
    'pcm-s8',
    'pcm-s16le',
    'pcm-u16be',
    'pcm-s32le',
    'pcm-u32le',
    'pcm-s24le',
    'pcm-u12le',
    'pcm-u5-packed',
    'ima-adpcm',
    'ima-adpcm-low',
    'mu-law',
    'float-32le',
  ])('%s: every byte reads back, in decimal and hex, in lines no longer than wanted', (id) => {
    const data = bytesFor(id, FRAMES);
    for (const text of [
      {},
      { numbers: 'hex', lineWidth: 72, constants: false, guard: false, address: 0xfff8 },
    ] as const) {
      const written = write(form, id, data, FRAMES, text);
      const file = readPlain(written, reading(id));
      expect(file.container).toBe(form);
      expect(file.encoding.id).toBe(id);
      expect([...wholeOf(file.data)]).toEqual([...data]);
      const longest = Math.max(
        ...textOf(written)
          .split('\n')
          .slice(1)
          .map((line) => line.length),
      );
      expect(longest).toBeLessThanOrEqual('lineWidth' in text ? 72 : 100);
    }
  });

  test('bytes that are harmed give an InputError, or a sound of the length that is stated', () => {
    const written = write(form, 'pcm-u8', bytesFor('pcm-u8', 60), 60);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(written.length), fc.nat(255)), { maxLength: 5 }),
        fc.nat(written.length),
        (changes, length) => {
          const bytes = written.slice(0, Math.max(1, length));
          for (const [at, value] of changes) if (at < bytes.length) bytes[at] = value;
          try {
            const file = readPlain(bytes, reading('pcm-u8'));
            expect(file.frames).toBeGreaterThan(0);
          } catch (error) {
            if (!(error instanceof InputError)) throw error;
          }
        },
      ),
      { numRuns: 500 },
    );
  });
});

describe('what other programs make of it', () => {
  let folder: string;
  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'text-forms-'));
  });
  afterAll(() => rmSync(folder, { recursive: true }));
  const path = (name: string) => join(folder, name);

  test('the C compiler: a source and a program beside it', () => {
    const data = bytesFor('pcm-s16le', FRAMES);
    writeFileSync(path('sound.c'), write('c-source', 'pcm-s16le', data, FRAMES, { numbers: 'hex' }));
    writeFileSync(
      path('main.c'),
      `#include <stdint.h>
       #include <stdio.h>
       extern const int16_t doors_closing[${FRAMES}];
       int main(void) { fwrite(doors_closing, 2, ${FRAMES}, stdout); return 0; }`,
    );
    execFileSync('cc', ['-Wall', '-Werror', '-o', path('main'), path('main.c'), path('sound.c')]);
    expect(new Uint8Array(execFileSync(path('main')))).toEqual(data);
  });

  test('JSON', () => {
    const data = bytesFor('pcm-s16le', FRAMES);
    expect(JSON.parse(textOf(write('json', 'pcm-s16le', data, FRAMES)))).toEqual({
      name: 'doors_closing',
      encoding: 'pcm-s16le',
      sampleRate: 16_000,
      channels: 1,
      frames: FRAMES,
      samples: [...new Int16Array(data.buffer)],
    });
  });
});

test('the other languages, as their documents have it', () => {
  const data = Uint8Array.of(0, 128, 255);
  expect(textOf(write('python', 'pcm-u8', data, 3))).toBe(
    [
      '# 8-bit unsigned PCM (pcm-u8), 16000 Hz, mono, 3 frames.',
      'DOORS_CLOSING_SAMPLE_RATE = 16000',
      'DOORS_CLOSING_CHANNELS = 1',
      'DOORS_CLOSING = bytes((',
      '    0, 128, 255,',
      '))',
      '',
    ].join('\n'),
  );
  expect(
    textOf(write('rust', 'pcm-s8', data, 3, { constants: false, storageAttribute: '#[link_section = ".sounds"]' })),
  ).toBe(
    [
      '// 8-bit signed PCM (pcm-s8), 16000 Hz, mono, 3 frames.',
      '#[link_section = ".sounds"]',
      'pub static DOORS_CLOSING: [i8; 3] = [',
      '    0, -128, -1,',
      '];',
      '',
    ].join('\n'),
  );
  expect(textOf(write('assembler', 'pcm-u8', data, 3, { numbers: 'hex', constants: false }))).toBe(
    [
      '/* 8-bit unsigned PCM (pcm-u8), 16000 Hz, mono, 3 frames. */',
      '.global doors_closing',
      '.global doors_closing_end',
      'doors_closing:',
      '  .byte 0x00, 0x80, 0xff',
      '/* end */',
      'doors_closing_end:',
      '',
    ].join('\n'),
  );
});

describe('Intel HEX', () => {
  // The record that most descriptions of the format show ("Hexadecimal Object File Format Specification"; from memory).
  const known = ':10010000214601360121470136007EFE09D2190140\n';

  test('writes the record of the books', () => {
    const data = Uint8Array.from('214601360121470136007EFE09D21901'.match(/../g) ?? [], (pair) =>
      Number.parseInt(pair, 16),
    );
    expect(textOf(write('intel-hex', 'pcm-u8', data, 16, { address: 0x100 }))).toBe(`${known}:00000001FF\n`);
  });

  test('crosses 64 KiB with a record of the upper address', () => {
    const lines = textOf(write('intel-hex', 'pcm-u8', bytesFor('pcm-u8', 40), 40, { address: 0x1_fff8 })).split('\n');
    expect(lines.map((line) => line.slice(0, 9))).toEqual([
      ':02000004',
      ':08FFF800',
      ':02000004',
      ':10000000',
      ':08001000',
      ':08001800',
      ':00000001',
      '',
    ]);
  });

  test.each([
    ['a wrong check sum', known.replace('40\n', '41\n'), /Line 1 .* wrong checksum/],
    ['no end', known, /without an end record/],
    ['a gap', `${known}:0102000000FD\n:00000001FF\n`, /Line 2 .* gap/],
  ])('%s is refused with its line', (_, text, message) => {
    expect(() => readPlain(new TextEncoder().encode(text), reading('pcm-u8'))).toThrow(message);
  });
});

describe('samples stand as numbers', () => {
  const shorts = new Uint8Array(Int16Array.of(0, 1, -1, 32_767, -32_768).buffer);
  const floats = Float32Array.of(0, 1, -0.5, 1 / 3, 1.17e-38, -3.4e38, 0.1);

  test.each([
    ['pcm-s16le', shorts, [0, 1, -1, 32_767, -32_768]],
    ['float-32le', new Uint8Array(floats.buffer), [...floats]],
    ['pcm-u8', Uint8Array.of(0, 128, 255), [0, 128, 255]],
  ])('in Python, as Python itself reads them: %s', (id, data, wanted) => {
    const { bytesPerSample } = plainEncodingOf(id) as { bytesPerSample: number };
    const file = textOf(write('python', id, data, data.length / bytesPerSample));
    const found = execFileSync('python3', ['-c', `${file}\nimport json; print(json.dumps(list(DOORS_CLOSING)))`], {
      encoding: 'utf8',
    });
    expect(JSON.parse(found)).toEqual(wanted);
  });

  test.each([
    ['pcm-s16le', shorts, '  .2byte 0, 1, -1, 32767, -32768'],
    ['float-32le', new Uint8Array(Float32Array.of(0, 1, -0.5).buffer), '  .float 0.0, 1.0, -0.5'],
    ['float-64le', new Uint8Array(Float64Array.of(1 / 3).buffer), '  .double 0.3333333333333333'],
  ])('in assembler: %s', (id, data, line) => {
    const { bytesPerSample } = plainEncodingOf(id) as { bytesPerSample: number };
    expect(textOf(write('assembler', id, data, data.length / bytesPerSample)).split('\n')).toContain(line);
  });

  test.each(['c-header', 'c-source', 'rust', 'json', 'python', 'assembler'])('any floats read back from %s', (form) => {
    const any = fc.array(fc.float({ noNaN: true, noDefaultInfinity: true }), { minLength: 1, maxLength: 60 });
    fc.assert(
      fc.property(any, (values) => {
        const data = new Uint8Array(Float32Array.from(values).buffer);
        const file = readPlain(write(form, 'float-32le', data, values.length), reading('float-32le'));
        expect([...new Float32Array(wholeOf(file.data).slice().buffer)]).toEqual([...Float32Array.from(values)]);
      }),
      { numRuns: 100 },
    );
  });
});
