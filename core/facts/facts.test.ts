import fc from 'fast-check';
import { describe, expect, test, vi } from 'vitest';
import type { Pcm } from '../audio/index.ts';
import { containerOf, packFile, wavFile } from '../containers/index.ts';
import { encodingOf } from '../encodings/index.ts';
import { openPlain } from './fixtures/open-plain.ts';
import {
  describeFacts,
  type Facts,
  Gathered,
  plainStream,
  readPlain,
  remarksOn,
  type SoundStream,
  sequentialReader,
  soundBlocks,
} from './index.ts';

const RATE = 44_100;
const sine = (hz: number, amplitude: number, seconds = 1) =>
  Float32Array.from({ length: RATE * seconds }, (_, i) => amplitude * Math.sin((2 * Math.PI * hz * i) / RATE));
const quiet = new Float32Array(RATE / 2);
const joined = (...parts: readonly Float32Array[]) => Float32Array.from(parts.flatMap((part) => [...part]));
const factsOf = (channels: readonly Float32Array[], bits: 16 | 24 = 16) => {
  const pcm: Pcm = { sampleRate: RATE, channels };
  return openPlain(wavFile(pcm, bits)).facts;
};
/** Something up to half the rate, so that nothing is said of the rate. */
const bright = (amplitude: number) => {
  let seed = 7;
  return Float32Array.from({ length: RATE }, () => {
    seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
    return amplitude * (seed / 2 ** 31 - 1);
  });
};

describe('what is measured', () => {
  test('levels of a sine of half of full scale', () => {
    const { levels, measures } = factsOf([sine(1000, 0.5), sine(1000, 0.5)]);
    expect(levels.peak[0]).toBeCloseTo(0.5, 4);
    // A sine's mean square is half the square of its peak.
    expect(levels.rms[0]).toBeCloseTo(0.5 / Math.SQRT2, 4);
    expect(levels.correlation).toBeCloseTo(1, 6);
    // Two channels of -6.02 dBFS, as EBU Tech 3341 counts them: about -6.0 LUFS.
    expect(measures.loudness).toBeCloseTo(-6, 0);
    expect(measures.truePeak).toBeGreaterThanOrEqual(levels.peak[0]);
    expect(measures.truePeak).toBeLessThan(0.52);
  });

  test('silence at the start and at the end, to the frame', () => {
    const { measures } = factsOf([joined(quiet, Float32Array.of(0.5), sine(1000, 0.5), Float32Array.of(0.5), quiet)]);
    expect(measures).toMatchObject({ leadingSilence: RATE / 2, trailingSilence: RATE / 2 });
  });

  test.each([
    [16, 16],
    [24, 24],
  ] as const)('%i bits that use all of them', (bits, used) =>
    expect(factsOf([bright(0.5)], bits).measures.usedBits).toBe(used));

  test('24 bits of which the low 8 are zero are a 16-bit sound', () => {
    const coarse = bright(0.5).map((value) => Math.round(value * 32_768) / 32_768);
    const facts = factsOf([coarse], 24);
    expect(facts).toMatchObject({ bitDepth: 24, measures: { usedBits: 16 } });
    expect(remarksOn(facts, 'a.wav')).toEqual(['States 24 bits, but only the upper 16 are used.']);
  });
});

describe('where a file states one thing and holds another', () => {
  const left = bright(0.4);
  const other = bright(0.3).map((value, i) => value * Math.cos(i));
  test.each([
    ['nothing odd', 'bell.wav', [left, other], []],
    [
      'a telephone recording',
      'call.wav',
      [sine(1000, 0.5)],
      ['nothing above 1\u202f100 Hz: half the rate would hold it'],
    ],
    ['one side dead', 'a.wav', [left, new Float32Array(RATE)], ['States 2 channels, but the right one is silent']],
    ['twice the same', 'a.wav', [left, left], ['both channels hold the same']],
    ['opposite phase', 'a.wav', [left, left.map((value) => -value)], ['in opposite phase']],
    ['silence', 'a.wav', [new Float32Array(RATE)], ['the file holds silence']],
    ['another extension', 'bell.mp3', [left, other], ['Named .mp3, is WAV.']],
    ['no extension', 'bell', [left, other], ['The name has no extension; the file is WAV.']],
  ])('%s', (_, name, channels, wanted) => {
    const remarks = remarksOn(factsOf(channels), name);
    expect(remarks).toHaveLength(wanted.length);
    wanted.forEach((words, i) => {
      expect(remarks[i]).toContain(words);
    });
  });
});

test('facts in words: the same lines for every screen', () => {
  const facts = factsOf([sine(1000, 0.5), sine(1000, 0.5).map((value) => value / 2)]);
  const lines = Object.fromEntries(describeFacts(facts, 'tone.wav').map(({ label, value }) => [label, value]));
  expect(lines).toMatchObject({
    container: 'WAV',
    encoding: '16-bit signed PCM',
    'sample rate': '44\u202f100 Hz',
    'bit depth': '16 bit',
    channels: 'stereo',
    length: '1.000 s, 44\u202f100 frames',
    size: '176.4 kB',
    // 44 100 Hz x 16 bit x 2: common practice, no source.
    'data rate': '1\u202f411.2 kbit/s, constant',
    peak: '\u22126.0 dBFS',
    correlation: '1.00',
  });
});

describe('a stream read in ranges', () => {
  const samples = Float32Array.from({ length: 1000 }, (_, i) => i);
  const decoded = vi.fn();
  const stream = {
    stated: undefined as unknown as SoundStream['stated'],
    *blocks() {
      decoded();
      // Decoders use their memory again.
      const memory = new Float32Array(64);
      for (let at = 0; at < samples.length; at += 64) {
        const length = Math.min(64, samples.length - at);
        memory.set(samples.subarray(at, at + length));
        yield [memory.subarray(0, length)];
      }
    },
  };
  const kind = { sampleRate: 8000, channels: 1, frames: 1000 } as Facts;

  test('any ranges give their samples', async () => {
    const range = fc.tuple(fc.nat(999), fc.integer({ min: 1, max: 300 }));
    await fc.assert(
      fc.asyncProperty(fc.array(range, { minLength: 1, maxLength: 6 }), async (ranges) => {
        const reader = sequentialReader(stream, kind);
        for (const [start, length] of ranges) {
          const count = Math.min(length, 1000 - start);
          expect((await reader.read(start, count))[0]).toEqual(samples.subarray(start, start + count));
        }
      }),
    );
  });

  test('one after the other it is decoded once; further back, once more; beyond its end it is refused', async () => {
    decoded.mockClear();
    const reader = sequentialReader(stream, kind);
    for (let at = 0; at < 1000; at += 100) await reader.read(at, 100);
    expect(decoded).toHaveBeenCalledTimes(1);
    await reader.read(0, 10);
    expect(decoded).toHaveBeenCalledTimes(2);
    await expect(reader.read(990, 20)).rejects.toThrow(RangeError);
  });

  test.each([
    'pcm-s16le',
    'pcm-s24le',
    'pcm-u8',
    'float-32le',
    'mu-law',
  ])('of plain samples, %s, any range is read from its own bytes, and is what decoding gives', async (id) => {
    const encoding = encodingOf(id);
    const [channels, frames] = [2, 1000];
    const bytes = Uint8Array.from({ length: frames * channels * encoding.bytesPerSample }, (_, i) => (i * 37) % 61);
    const wav = packFile(containerOf('wav'), { encoding, sampleRate: 8000, channels, frames, stem: 'x' }, bytes);
    const stream = plainStream(readPlain(wav), wav.length);
    const whole = [...soundBlocks(readPlain(wav))][0];
    await fc.assert(
      fc.asyncProperty(fc.nat(frames - 1), fc.integer({ min: 1, max: 300 }), async (start, length) => {
        const count = Math.min(length, frames - start);
        expect(await stream.reader?.read(start, count)).toEqual(
          whole.map((samples) => samples.slice(start, start + count)),
        );
      }),
      { numRuns: 20 },
    );
    await expect(stream.reader?.read(frames - 1, 2)).rejects.toThrow(RangeError);
  });

  test('of blocks of samples no range is read alone', () => {
    const file = readPlain(new Uint8Array(4000), { encoding: 'oki-adpcm', sampleRate: 8000, channels: 1 });
    expect(plainStream(file, 4000).reader).toBeUndefined();
  });
});

test('what has been gathered stays, whatever becomes of the memory it came in', () => {
  const memory = new Float32Array(3);
  for (const count of [1, 2, 5]) {
    const gathered = new Gathered();
    for (let block = 0; block < count; block++) gathered.add([memory.fill(block), memory.subarray(0, 3)]);
    memory.fill(-1);
    const wanted = Array.from({ length: 3 * count }, (_, i) => Math.floor(i / 3));
    expect(gathered.channels(2).map((samples) => [...samples])).toEqual([wanted, wanted]);
  }
});
