import decode from 'audio-decode';
import fc from 'fast-check';
import { parseBuffer } from 'music-metadata';
import { describe, expect, test } from 'vitest';
import wavefile from 'wavefile';
import { wholeOf } from '../bytes/index.ts';
import { encodingOf, encodings } from '../encodings/index.ts';
import { openPlain } from '../facts/fixtures/open-plain.ts';
import { readPlain } from '../facts/index.ts';
import { InputError } from '../words/index.ts';
import { containerOf, containers, packFile } from './index.ts';

const { WaveFile } = wavefile as unknown as typeof import('wavefile');

function pack(container: string, encodingId: string, data: Uint8Array, channels = 1, sampleRate = 22_050): Uint8Array {
  const encoding = encodingOf(encodingId);
  const frames = data.length / encoding.bytesPerSample / channels;
  return packFile(containerOf(container), { encoding, sampleRate, channels, frames, stem: 'x' }, data);
}

const selfDescribing = containers.filter(({ describesItself }) => describesItself);
const isSampleBySample = (id: string) => encodings.some((encoding) => encoding.id === id);
const pairs = selfDescribing.flatMap(({ id, carries }) =>
  carries.filter(isSampleBySample).map((encoding) => ({ container: id, encoding })),
);

describe.each(pairs)('$encoding in $container', ({ container, encoding }) => {
  test('reads back as written: encoding, rate, channels, every byte', () => {
    const { bytesPerSample, bitDepth } = encodingOf(encoding);
    // Samples of fewer than eight bits have no more in their byte.
    const values = Math.min(251, 2 ** bitDepth);
    const rate = fc.constantFrom(1000, 8000, 11_025, 44_100, 48_000, 96_000, 192_000);
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 6 }),
        rate,
        (frames, channels, sampleRate) => {
          const data = Uint8Array.from(
            { length: frames * channels * bytesPerSample },
            (_, i) => (i * 73 + frames) % values,
          );
          const file = readPlain(pack(container, encoding, data, channels, sampleRate));
          expect(file).toMatchObject({ container, sampleRate, channels, frames, extras: [], tags: [], warnings: [] });
          expect(file.encoding.id).toBe(encoding);
          expect(wholeOf(file.data)).toEqual(data);
        },
      ),
      { numRuns: 30 },
    );
  });
});

/** Halves, quarters and the like: the same in every encoding that is not companded. */
const values = [0, 0.5, -0.5, 0.25, -0.75, 0.125, -1, 0.75];

function encoded(id: string): Uint8Array {
  const encoding = encodingOf(id);
  if (encoding.kind === 'float') return encoding.encode(Float32Array.from(values));
  return encoding.encode(Int32Array.from(values, (value) => value * 2 ** (encoding.linearBits - 1)));
}

describe('against other readers', () => {
  // Not 8-bit AIFF: that decoder takes it for unsigned, while the AIFF document says two's complement.
  test.each([
    ['aiff', 'pcm-s16be'],
    ['aiff', 'pcm-s24be'],
    ['aiff', 'pcm-s32be'],
    ['aiff-c', 'pcm-s16le'],
    ['aiff-c', 'float-32be'],
    ['aiff-c', 'float-64be'],
  ])('our %s files of %s hold the same samples there', async (container, id) => {
    const bytes = pack(container, id, encoded(id));
    const { channelData, sampleRate } = await decode(bytes);
    expect(sampleRate).toBe(22_050);
    expect([...channelData[0]]).toEqual(values);
    const { format } = await parseBuffer(bytes);
    expect(format).toMatchObject({ sampleRate: 22_050, numberOfChannels: 1, numberOfSamples: values.length });
  });

  // The second reader does not know CAF.
  test.each(['pcm-s16le', 'pcm-s16be', 'pcm-s24be', 'float-32le'])('our CAF files of %s too', async (id) => {
    const { channelData, sampleRate } = await decode(pack('caf', id, encoded(id)));
    expect(sampleRate).toBe(22_050);
    expect([...channelData[0]]).toEqual(values);
  });

  test.each(['RIFX', 'RF64'])('their %s files are read here', (kind) => {
    const file = new WaveFile();
    const samples = values.map((value) => value * 32_768);
    file.fromScratch(1, 48_000, '16', samples, { container: kind });
    const { facts, pcm } = openPlain(file.toBuffer());
    expect(facts).toMatchObject({
      container: kind === 'RF64' ? 'rf64' : 'wav',
      sampleRate: 48_000,
      frames: values.length,
      warnings: [],
    });
    expect(facts.encoding).toBe(kind === 'RIFX' ? 'pcm-s16be' : 'pcm-s16le');
    expect([...pcm.channels[0]]).toEqual(values);
  });

  test.each([
    ['12', 12],
    ['20', 20],
  ])('their WAV files of %s bits are read in their wider samples', (code, bits) => {
    const file = new WaveFile();
    file.fromScratch(
      1,
      48_000,
      code,
      values.map((value) => value * 2 ** (bits - 1)),
    );
    const { facts } = openPlain(file.toBuffer());
    expect(facts.bitDepth).toBe(bits);
    expect(facts.frames).toBe(values.length);
  });
});

/** A file of four letters, sizes and numbers, spelled out by hand. */
function bytesOf(...parts: (string | number[])[]): Uint8Array {
  return Uint8Array.from(
    parts.flatMap((part) => (typeof part === 'string' ? Array.from(part, (char) => char.charCodeAt(0)) : part)),
  );
}

describe('headers spelled out by hand', () => {
  // The rate 44 100 as an 80-bit number is 400E AC44 0000 0000 0000, as the AIFF document itself gives it (from memory).
  const rate = [0x40, 0x0e, 0xac, 0x44, 0, 0, 0, 0, 0, 0];
  const common = (bits: number, frames: number) => [0, 1, 0, 0, 0, frames, 0, bits, ...rate];

  test('AIFF: rate, odd depth, title, and an offset before the samples', () => {
    const file = bytesOf(
      ...['FORM', [0, 0, 0, 66], 'AIFF', 'NAME', [0, 0, 0, 4], 'Bell'],
      ...['COMM', [0, 0, 0, 18], common(12, 2), 'SSND', [0, 0, 0, 14], [0, 0, 0, 2, 0, 0, 0, 0], [9, 9]],
      [0x40, 0x00, 0xc0, 0x00],
    );
    const { facts, pcm } = openPlain(file);
    expect(facts).toMatchObject({
      container: 'aiff',
      encoding: 'pcm-s16be',
      bitDepth: 12,
      sampleRate: 44_100,
      frames: 2,
    });
    expect(facts.tags).toEqual([{ name: 'title', value: 'Bell' }]);
    expect([...pcm.channels[0]]).toEqual([0.5, -0.5]);
  });

  test('AU: its comment is a tag, an unknown size reaches to the end', () => {
    const head = [
      [0, 0, 0, 32],
      [255, 255, 255, 255],
      [0, 0, 0, 3],
      [0, 0, 0x1f, 0x40],
      [0, 0, 0, 1],
    ];
    const { facts, pcm } = openPlain(bytesOf('.snd', ...head, 'Station\0', [0x40, 0, 0xc0, 0]));
    expect(facts).toMatchObject({ container: 'au', encoding: 'pcm-s16be', sampleRate: 8000, frames: 2, warnings: [] });
    expect(facts.tags).toEqual([{ name: 'comment', value: 'Station' }]);
    expect([...pcm.channels[0]]).toEqual([0.5, -0.5]);
  });

  const wav = pack('wav', 'pcm-s16le', Uint8Array.of(0, 64, 0, 192));
  test.each([
    ['0', 0],
    ['0xFFFFFFFF', 0xffffffff],
  ])('WAV: a data size of %s reaches to the end', (_, size) => {
    const copy = wav.slice();
    new DataView(copy.buffer).setUint32(40, size, true);
    expect(openPlain(copy).facts).toMatchObject({ frames: 2, warnings: [] });
  });

  test.each([
    ['AIFF without a format', bytesOf('FORM', [0, 0, 0, 4], 'AIFF'), 'header-cut-off'],
    [
      'AIFF without its sound',
      bytesOf('FORM', [0, 0, 0, 30], 'AIFF', 'COMM', [0, 0, 0, 18], common(16, 2)),
      'header-cut-off',
    ],
    [
      'AIFF-C of an unknown compression',
      bytesOf('FORM', [0, 0, 0, 34], 'AIFC', 'COMM', [0, 0, 0, 22], common(16, 2), 'MAC6'),
      'unsupported-codec',
    ],
    ['AU cut off in its header', bytesOf('.snd', [0, 0, 0, 24]), 'header-cut-off'],
    [
      'AU of an unknown encoding',
      bytesOf('.snd', ...[24, 4, 23, 8000, 1].map((n) => [0, 0, n >> 8, n & 255]), [1, 2, 3, 4]),
      'unsupported-codec',
    ],
    ['AU without a rate', bytesOf('.snd', ...[24, 4, 3, 0, 1].map((n) => [0, 0, 0, n]), [1, 2, 3, 4]), 'damaged'],
    ['AU without a frame', bytesOf('.snd', ...[24, 0, 3, 80, 1].map((n) => [0, 0, 0, n])), 'no-frames'],
  ])('%s is refused', (_, bytes, code) => {
    expect(() => openPlain(bytes)).toThrow(expect.objectContaining({ name: 'InputError', code }));
  });
});

test('no mutated or truncated file of any container gives anything but sound or an InputError', () => {
  const seeds = pairs.map(({ container, encoding }) => {
    const { bytesPerSample } = encodingOf(encoding);
    return pack(container, encoding, new Uint8Array(bytesPerSample * 12).fill(7), 2);
  });
  fc.assert(
    fc.property(
      fc.constantFrom(...seeds),
      fc.array(fc.tuple(fc.nat(120), fc.nat(255)), { maxLength: 8 }),
      fc.nat(400),
      (seed, changes, length) => {
        const bytes = seed.slice(0, Math.max(1, length));
        for (const [at, value] of changes) if (at < bytes.length) bytes[at] = value;
        try {
          const { facts, pcm } = openPlain(bytes);
          expect(facts.frames).toBeGreaterThan(0);
          expect(pcm.channels[0]).toHaveLength(facts.frames);
        } catch (error) {
          if (!(error instanceof InputError)) throw error;
        }
      },
    ),
    { numRuns: 6000 },
  );
});
