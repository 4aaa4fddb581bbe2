import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import wavefile from 'wavefile';
import { wholeOf } from '../bytes/index.ts';
import { encodingOf, plainEncodingOf } from '../encodings/index.ts';
import { openPlain } from '../facts/fixtures/open-plain.ts';
import { readPlain } from '../facts/index.ts';
import { InputError } from '../words/index.ts';
import { containerOf, packFile, waveEncoding, waveSampleBytes } from './index.ts';

const { WaveFile } = wavefile as unknown as typeof import('wavefile');
const wav = containerOf('wav');

const pack = (encodingId: string, data: Uint8Array, channels = 1, sampleRate = 8000) => {
  const encoding = encodingOf(encodingId);
  const frames = data.length / encoding.bytesPerSample / channels;
  return packFile(wav, { encoding, sampleRate, channels, frames, stem: 'x' }, data);
};

const ramp = (count: number, bits: number) =>
  Int32Array.from({ length: count }, (_, i) => Math.round(Math.sin(i / 7) * (2 ** (bits - 1) - 1)));

const integers = [
  { id: 'pcm-u8', code: '8', bits: 8 },
  { id: 'pcm-s16le', code: '16', bits: 16 },
  { id: 'pcm-s24le', code: '24', bits: 24 },
  { id: 'pcm-s32le', code: '32', bits: 32 },
];

describe('against a reference package', () => {
  test.each(integers)('our $id files are read there with equal samples', ({ id, bits }) => {
    const encoding = encodingOf(id);
    if (encoding.kind !== 'integer') throw new Error('expected whole numbers');
    const samples = ramp(300, bits);
    const file = new WaveFile(pack(id, encoding.encode(samples), 1, 44_100));
    const offset = id === 'pcm-u8' ? 128 : 0;
    expect(Array.from(file.getSamples() as unknown as number[])).toEqual(
      Array.from(samples, (value) => value + offset),
    );
    expect((file.fmt as { sampleRate: number }).sampleRate).toBe(44_100);
  });

  test.each([
    ...integers.map(({ id, code }) => ({ id, code, scale: id === 'pcm-u8' ? 128 : 2 ** (Number(code) - 1) })),
    { id: 'float-32le', code: '32f', scale: 1 },
    { id: 'float-64le', code: '64', scale: 1 },
  ])('their $code files are read here with equal samples', ({ id, code, scale }) => {
    const offset = id === 'pcm-u8' ? 128 : 0;
    const values = [0, 0.5, -0.5, 0.25, -1, 0.75].map((value) => value * scale + offset);
    const file = new WaveFile();
    file.fromScratch(2, 48_000, code, [values, [...values].reverse()]);
    const { facts, pcm } = openPlain(file.toBuffer());
    expect(facts).toMatchObject({ container: 'wav', encoding: id, sampleRate: 48_000, channels: 2, frames: 6 });
    expect(Array.from(pcm.channels[0])).toEqual([0, 0.5, -0.5, 0.25, -1, 0.75]);
    expect(Array.from(pcm.channels[1])).toEqual([0.75, -1, 0.25, -0.5, 0.5, 0]);
  });

  test.each([
    { id: 'mu-law', convert: 'toMuLaw' as const, code: '8m' },
    { id: 'a-law', convert: 'toALaw' as const, code: '8a' },
  ])('$id files go both ways', ({ id, convert }) => {
    const samples = Array.from(ramp(500, 16));
    const theirs = new WaveFile();
    theirs.fromScratch(1, 8000, '16', samples);
    theirs[convert]();
    const { facts, pcm } = openPlain(theirs.toBuffer());
    expect(facts).toMatchObject({ encoding: id, bitDepth: 8, bitRate: 64_000, frames: 500 });
    const encoding = encodingOf(id);
    if (encoding.kind !== 'integer') throw new Error('expected whole numbers');
    const ours = new WaveFile(pack(id, encoding.encode(Int32Array.from(samples))));
    if (id === 'mu-law') ours.fromMuLaw();
    else ours.fromALaw();
    const decoded = Array.from(ours.getSamples() as unknown as number[], (value) => value / 32_768);
    expect(decoded).toEqual(Array.from(pcm.channels[0], (value) => value + 0));
  });

  test('tags of theirs are found, and counted as something beside the sound', () => {
    const file = new WaveFile();
    file.fromScratch(1, 8000, '16', [1, 2, 3]);
    file.setTag('INAM', 'Doors closing');
    const { facts } = openPlain(file.toBuffer());
    expect(facts.tags).toEqual([{ name: 'title', value: 'Doors closing' }]);
    expect(facts.extras).toHaveLength(1);
  });
});

/** An extensible header as the specification lays it out, written out by hand here. */
function extensible(tag: number, bits: number, data: number[]): Uint8Array {
  const out = new Uint8Array(68 + data.length);
  const view = new DataView(out.buffer);
  const text = (at: number, value: string) =>
    out.set(
      Array.from(value, (char) => char.charCodeAt(0)),
      at,
    );
  text(0, 'RIFF');
  view.setUint32(4, out.length - 8, true);
  text(8, 'WAVEfmt ');
  view.setUint32(16, 40, true);
  view.setUint16(20, 0xfffe, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, 8000, true);
  view.setUint32(28, (8000 * bits) / 8, true);
  view.setUint16(32, bits / 8, true);
  view.setUint16(34, bits, true);
  view.setUint16(36, 22, true);
  view.setUint16(38, bits, true);
  view.setUint32(40, 4, true);
  view.setUint16(44, tag, true);
  out.set([0, 0, 0, 0, 0x10, 0, 0x80, 0, 0, 0xaa, 0, 0x38, 0x9b, 0x71], 46);
  text(60, 'data');
  view.setUint32(64, data.length, true);
  out.set(data, 68);
  return out;
}

describe('in how many bytes a sample stands, and what it then is', () => {
  test.each([
    // Frame, channels, bits; the bytes; the number, the encoding.
    [4, 2, 16, 2, 1, 'pcm-s16le'],
    [4, 2, 12, 2, 1, 'pcm-s16le'],
    [6, 2, 20, 3, 1, 'pcm-s24le'],
    [1, 1, 8, 1, 6, 'a-law'],
    // Headers that state the bits of what is decoded.
    [2, 2, 0, 1, 7, 'mu-law'],
    [0, 2, 16, 2, 1, 'pcm-s16le'],
    [5, 2, 16, 2, 1, 'pcm-s16le'],
    [0, 0, 0, 0, 1, undefined],
    [4, 1, 16, 4, 7, undefined],
  ])('frames of %i bytes, %i channels, %i bits: %i bytes, number %i, %s', (frame, channels, bits, bytes, number, id) => {
    expect(waveSampleBytes(frame, channels, bits)).toBe(bytes);
    expect(waveEncoding(number, bytes)).toBe(id);
  });
});

test('samples of five bytes and more are read and not written', () => {
  expect(() => pack('pcm-s40le', new Uint8Array(10))).toThrow('WAV does not carry pcm-s40le');
});

describe('what real files contain', () => {
  test('the extensible header names the encoding in its sub-format', () => {
    expect(openPlain(extensible(1, 16, [0, 64, 0, 192])).pcm.channels[0]).toEqual(Float32Array.of(0.5, -0.5));
    expect(openPlain(extensible(7, 8, [0x80, 0xff])).facts.encoding).toBe('mu-law');
  });

  test('chunks in any order and of odd size', () => {
    const plain = pack('pcm-u8', Uint8Array.of(128, 255, 0));
    const note = [...'note'].map((char) => char.charCodeAt(0));
    const odd = Uint8Array.of(...plain.subarray(0, 12), ...note, 3, 0, 0, 0, 1, 2, 3, 0, ...plain.subarray(12));
    const file = readPlain(odd);
    expect([...wholeOf(file.data)]).toEqual([128, 255, 0]);
    expect(file.extras).toEqual([{ name: 'note', bytes: 3 }]);
  });

  test('a file cut off in its data gives what is there, with a warning', () => {
    const whole = pack('pcm-s16le', new Uint8Array(2000));
    const { facts } = openPlain(whole.subarray(0, 1044));
    expect(facts.frames).toBe(500);
    expect(facts.warnings).toEqual([
      'The file is cut off: its header promises 2.0 kB of sound, but only 1.0 kB are there; those are used.',
    ]);
  });

  test('a PCM file has a 44-byte header and nothing else, and an even length', () => {
    expect(pack('pcm-s16le', new Uint8Array(10))).toHaveLength(54);
    expect(pack('pcm-u8', new Uint8Array(3))).toHaveLength(48);
  });
});

describe('refusals, one sentence each', () => {
  const whole = pack('pcm-s16le', new Uint8Array(20));
  const withTag = (tag: number) => {
    const copy = whole.slice();
    new DataView(copy.buffer).setUint16(20, tag, true);
    return copy;
  };
  test.each([
    ['empty', new Uint8Array(0), 'empty-file', 'The file is empty: it has 0 bytes; choose another file.'],
    ['text', new TextEncoder().encode('not a sound at all'), 'not-audio', /^The file is of no known kind/],
    ['cut off after its first bytes', whole.subarray(0, 10), 'header-cut-off', /before its format is stated/],
    ['cut off in its format', whole.subarray(0, 30), 'header-cut-off', /inside its header/],
    ['cut off before its sound', whole.subarray(0, 40), 'header-cut-off', /before its sound begins/],
    ['without a frame', pack('pcm-s16le', new Uint8Array(0)), 'no-frames', /0 frames/],
    ['of an unknown codec', withTag(0x0055), 'unsupported-codec', /MPEG layer 3 with 16 bits/],
    ['of a nameless codec', withTag(0x1234), 'unsupported-codec', /codec number 0x1234/],
  ])('a file that is %s', (_, bytes, code, words) => {
    let caught: unknown;
    try {
      openPlain(bytes);
    } catch (error) {
      caught = error;
    }
    expect(caught).toBeInstanceOf(InputError);
    expect((caught as InputError).code).toBe(code);
    expect((caught as InputError).message).toMatch(words);
  });

  test('no mutated or truncated file gives anything but sound or an InputError', () => {
    const seeds = [whole, extensible(1, 16, [1, 2, 3, 4]), pack('mu-law', new Uint8Array(31), 1)];
    fc.assert(
      fc.property(
        fc.constantFrom(...seeds),
        fc.array(fc.tuple(fc.nat(100), fc.nat(255)), { maxLength: 6 }),
        fc.nat(100),
        (seed, changes, length) => {
          const bytes = seed.slice(0, Math.max(1, length));
          for (const [at, value] of changes) if (at < bytes.length) bytes[at] = value;
          try {
            expect(openPlain(bytes).facts.frames).toBeGreaterThan(0);
          } catch (error) {
            if (!(error instanceof InputError)) throw error;
          }
        },
      ),
      { numRuns: 3000 },
    );
  });
});

/** A WAV file of chunks spelled out by hand; each is padded to an even size unless its writer forgot. */
function chunks(
  parts: readonly (readonly [id: string, body: readonly number[], forgetsPadding?: boolean])[],
): Uint8Array {
  const letters = (text: string) => Array.from(text, (char) => char.charCodeAt(0));
  const size = (n: number) => [n & 255, (n >> 8) & 255, (n >> 16) & 255, n >>> 24];
  const body = parts.flatMap(([id, bytes, forgets]) => [
    ...letters(id),
    ...size(bytes.length),
    ...bytes,
    ...(bytes.length % 2 && !forgets ? [0] : []),
  ]);
  return Uint8Array.from([...letters('RIFF'), ...size(body.length + 4), ...letters('WAVE'), ...body]);
}

const u16 = (value: number) => [value & 255, value >> 8];
const u32 = (value: number) => [...u16(value & 0xffff), ...u16(value >>> 16)];
const format = (
  tag: number,
  channels: number,
  bits: number,
  frameBytes = (channels * bits) / 8,
  more: readonly number[] = [],
) => [
  ...u16(tag),
  ...u16(channels),
  ...u32(8000),
  ...u32(8000 * frameBytes),
  ...u16(frameBytes),
  ...u16(bits),
  ...more,
];
/** What the extensible header adds: bits that count, speakers, and the sub-format of PCM. */
const extension = (bits: number, mask: number) => [
  ...[...u16(22), ...u16(bits), ...u32(mask)],
  ...[1, 0, 0, 0, 0, 0, 0x10, 0, 0x80, 0, 0, 0xaa, 0, 0x38, 0x9b, 0x71],
];
const PLAIN = format(1, 1, 16);
const SOUND = [0, 64, 0, 192];

describe('codec numbers of RFC 2361, appendix A', () => {
  test.each([
    ['WAVE_FORMAT_PCM', 0x0001, 'pcm-s16le'],
    ['WAVE_FORMAT_IEEE_FLOAT', 0x0003, 'float-32le'],
    ['WAVE_FORMAT_ALAW', 0x0006, 'a-law'],
    ['WAVE_FORMAT_MULAW', 0x0007, 'mu-law'],
  ])('%s is written as 0x%s', (_, number, id) => {
    const written = pack(id, new Uint8Array(8));
    expect(written[20] | (written[21] << 8)).toBe(number);
  });

  test.each([
    ['WAVE_FORMAT_ADPCM', 0x0002, 'ms-adpcm'],
    ['WAVE_FORMAT_DVI_ADPCM', 0x0011, 'ima-adpcm'],
  ])('%s, 0x%s, is read as %s', (_, number, id) => {
    const file = chunks([
      ['fmt ', format(number, 1, 4, 32)],
      ['data', new Array(64).fill(0)],
    ]);
    expect(readPlain(file).encoding.id).toBe(id);
  });

  test.each([
    [0x0031, 'GSM 6.10'],
    [0x0050, 'MPEG layer 1 or 2'],
    [0x0055, 'MPEG layer 3'],
    [0x0010, 'OKI ADPCM'],
    [0x0065, 'G.722 ADPCM'],
    [0x1234, 'codec number 0x1234'],
  ])('0x%s is refused as %s', (number, name) => {
    const file = chunks([
      ['fmt ', format(number, 1, 8)],
      ['data', SOUND],
    ]);
    expect(() => readPlain(file)).toThrow(name);
  });
});

describe('what real files contain', () => {
  const values = (file: Uint8Array) => [...openPlain(file).pcm.channels[0]];
  test.each([
    [
      'the sound before its format',
      chunks([
        ['data', SOUND],
        ['fmt ', PLAIN],
      ]),
    ],
    [
      'an odd chunk between them',
      chunks([
        ['fmt ', PLAIN],
        ['junk', [1, 2, 3]],
        ['data', SOUND],
      ]),
    ],
    [
      'an odd chunk whose padding was forgotten',
      chunks([
        ['fmt ', PLAIN],
        ['junk', [1, 2, 3], true],
        ['data', SOUND],
      ]),
    ],
    [
      'a chunk behind the sound',
      chunks([
        ['fmt ', PLAIN],
        ['data', SOUND],
        ['cue ', [0, 0, 0, 0]],
      ]),
    ],
    [
      'the extensible header',
      chunks([
        ['fmt ', format(0xfffe, 1, 16, 2, extension(16, 4))],
        ['data', SOUND],
      ]),
    ],
  ])('%s', (_, file) => {
    expect(values(file)).toEqual([0.5, -0.5]);
    expect(openPlain(file).facts.warnings).toEqual([]);
  });

  test('the speakers of an extensible header, and 20 bits in 24', () => {
    const file = chunks([
      ['fmt ', format(0xfffe, 6, 24, 18, extension(20, 0x3f))],
      ['data', new Array(36).fill(16)],
    ]);
    const { facts } = openPlain(file);
    expect(facts).toMatchObject({ channels: 6, bitDepth: 20, frames: 2, layout: ['L', 'R', 'C', 'LFE', 'Lb', 'Rb'] });
  });

  test('sizes that promise more than is there are a warning, and what is there is read', () => {
    const file = chunks([
      ['fmt ', PLAIN],
      ['data', [...SOUND, ...SOUND]],
    ]);
    const { facts } = openPlain(file.subarray(0, file.length - 4));
    expect(facts.frames).toBe(2);
    expect(facts.warnings).toEqual([
      'The file is cut off: its header promises 8 bytes of sound, but only 4 bytes are there; those are used.',
    ]);
  });
});

describe('blocks and a fact chunk that counts wrongly', () => {
  const encoding = plainEncodingOf('ima-adpcm');
  if (encoding.kind !== 'block') throw new Error('expected blocks');
  const frames = 5000;
  const layout = encoding.layout(2, 22_050);
  const encoder = encoding.encoder(layout);
  const samples = Int32Array.from({ length: 2 * frames }, (_, i) => Math.round(9000 * Math.sin(i / 40)));
  const data = Buffer.concat([encoder.push(samples), encoder.finish()]);
  const file = packFile(wav, { encoding, sampleRate: 22_050, channels: 2, frames, stem: 'x' }, new Uint8Array(data));
  const factAt = Buffer.from(file).indexOf('fact') + 8;
  const stating = (count: number) => {
    const changed = file.slice();
    new DataView(changed.buffer).setUint32(factAt, count, true);
    return openPlain(changed);
  };
  const { unitFrames, unitBytes } = encoding.codec(layout);
  const present = (data.length / unitBytes) * unitFrames;

  test.each([
    ['as it is', frames, frames, false],
    ['the whole last block', present, present, false],
    ['half of it, as if two channels were one', frames / 2, present, true],
    ['samples instead of frames', 2 * frames, present, true],
    ['one', 1, present, true],
    ['the largest number', 0xffffffff, present, true],
  ])('%s', (_, stated, found, isSaid) => {
    const { facts, pcm } = stating(stated);
    expect(facts.frames).toBe(found);
    expect(pcm.channels[1]).toHaveLength(found);
    expect(facts.warnings.join()).toMatch(isSaid ? /states \d+ frames, but its blocks hold \d+/ : /^$/);
  });
});

test.each([false, true])('the extensible header in RIFX as in RIFF (big-endian: %s)', (big) => {
  const bytes = new Uint8Array(68 + 8);
  const view = new DataView(bytes.buffer);
  const text = (at: number, value: string) => bytes.set(Buffer.from(value), at);
  text(0, big ? 'RIFX' : 'RIFF');
  view.setUint32(4, bytes.length - 8, !big);
  text(8, 'WAVEfmt ');
  view.setUint32(16, 40, !big);
  const words = (at: number, ...values: number[]) => {
    for (const [i, value] of values.entries()) view.setUint16(at + 2 * i, value, !big);
  };
  words(20, 0xfffe, 2);
  view.setUint32(24, 44_100, !big);
  view.setUint32(28, 176_400, !big);
  words(32, 4, 16, 22, 16);
  view.setUint32(40, 3, !big);
  // KSDATAFORMAT_SUBTYPE_PCM: a 32-bit number, two of 16 bits, eight bytes (from memory).
  view.setUint32(44, 1, !big);
  view.setUint16(48, 0, !big);
  view.setUint16(50, 0x10, !big);
  bytes.set([0x80, 0, 0, 0xaa, 0, 0x38, 0x9b, 0x71], 52);
  text(60, 'data');
  view.setUint32(64, 8, !big);
  words(68, ...[0.5, -0.5, 0.25, -1].map((value) => value * 32_768));
  const { facts, pcm } = openPlain(bytes);
  expect(facts).toMatchObject({ encoding: big ? 'pcm-s16be' : 'pcm-s16le', frames: 2 });
  expect(pcm.channels.map((samples) => [...samples])).toEqual([
    [0.5, 0.25],
    [-0.5, -1],
  ]);
});

test.each([40, 48, 56, 64])('PCM of %d bits is read', (bits) => {
  const values = [0.5, -0.5, 0.25, -1, 1 / 3];
  const data = new Uint8Array((values.length * bits) / 8);
  values.forEach((value, i) => {
    const whole = BigInt(Math.round(value * 2 ** 31)) << BigInt(bits - 32);
    for (let k = 0; k < bits / 8; k++) data[(i * bits) / 8 + k] = Number((whole >> BigInt(8 * k)) & 255n);
  });
  const file = pack('pcm-s32le', data.slice(0, 4 * Math.floor(data.length / 4)));
  const view = new DataView(file.buffer);
  view.setUint16(32, bits / 8, true);
  view.setUint16(34, bits, true);
  const { facts, pcm } = openPlain(Buffer.concat([file.subarray(0, 44), data]));
  expect(facts).toMatchObject({ encoding: `pcm-s${bits}le`, bitDepth: bits });
  for (const [i, value] of pcm.channels[0].entries()) expect(value).toBeCloseTo(values[i], 7);
});

test('numbers that are none, or beyond all measure, stay out of the figures', () => {
  const values = Float32Array.of(Number.NaN, Number.POSITIVE_INFINITY, 3e38, -3e38, 0.5);
  const { facts, pcm } = openPlain(pack('float-32le', new Uint8Array(values.buffer)));
  expect([...pcm.channels[0]]).toEqual([0, 0, 2 ** 20, -(2 ** 20), 0.5]);
  expect(JSON.stringify(facts)).toBe(JSON.stringify(JSON.parse(JSON.stringify(facts))));
  expect(facts.measures.loudness).not.toBeNull();
});

describe('RF64', () => {
  const encoding = encodingOf('pcm-s16le');

  test.each([3, 4, 1000])('%d samples read back, with their tags', (count) => {
    if (encoding.kind !== 'integer') throw new Error('expected whole numbers');
    const samples = ramp(count, 16);
    const tags = [{ name: 'title', value: 'Bell' }];
    const packing = { encoding, sampleRate: 8000, channels: 1, frames: count, stem: 'x', tags };
    const file = packFile(containerOf('rf64'), packing, encoding.encode(samples));
    expect(Buffer.from(file.subarray(0, 4)).toString()).toBe('RF64');
    const { facts, pcm } = openPlain(file);
    expect(facts).toMatchObject({ container: 'rf64', encoding: 'pcm-s16le', frames: count, tags, warnings: [] });
    expect(Array.from(pcm.channels[0], (value) => value * 32_768)).toEqual([...samples]);
    // A reference package finds the same samples.
    const theirs = Array.from(new WaveFile(file).getSamples() as unknown as number[]);
    expect(theirs.slice(0, count)).toEqual([...samples]);
  });

  test('sizes beyond 32 bits stand in its head (EBU Tech 3306, from memory)', () => {
    const dataBytes = 5_000_000_000;
    const packing = { encoding, sampleRate: 96_000, channels: 2, frames: dataBytes / 4, stem: 'x', dataBytes };
    const { head } = containerOf('rf64').write(packing);
    const view = new DataView(head.buffer, head.byteOffset);
    expect(Buffer.from(head.subarray(12, 16)).toString()).toBe('ds64');
    expect([view.getUint32(4, true), view.getUint32(head.length - 4, true)]).toEqual([0xffffffff, 0xffffffff]);
    expect(Number(view.getBigUint64(20, true))).toBe(head.length - 8 + dataBytes);
    expect(Number(view.getBigUint64(28, true))).toBe(dataBytes);
    expect(Number(view.getBigUint64(36, true))).toBe(dataBytes / 4);
  });
});
