import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';

/** Everything is loaded again, with and without compiled kernels: some are made at first use and stay. */
async function load(compiled: boolean) {
  vi.resetModules();
  if (compiled) vi.doUnmock('./module.ts');
  else vi.doMock('./module.ts', () => ({ kernelModule: () => null }));
  const audio = await import('../audio/index.ts');
  const dsp = await import('../dsp/index.ts');
  const { crc32 } = await import('../bytes/index.ts');
  const { encodingOf, frameCodec } = await import('../encodings/index.ts');
  return { audio, crc32, dsp, encodingOf, frameCodec };
}

beforeEach(() => void vi.resetModules());
afterEach(() => void vi.doUnmock('./module.ts'));

const noise = (count: number, seed: number) =>
  Float32Array.from({ length: count }, (_, i) => Math.fround(0.9 * Math.sin(seed + i * i * 0.37)));

describe('an engine without SIMD gives the same bits', () => {
  const both = async <T>(use: (loaded: Awaited<ReturnType<typeof load>>) => T): Promise<[T, T]> => [
    use(await load(true)),
    use(await load(false)),
  ];

  test.each([
    [44_100, 8_000, 3000],
    [8_000, 11_025, 3000],
    [44_100, '16000000/1020', 3000],
    // Long enough for blocks.
    [44_100, 8_000, 50_000],
    [44_100, '16000000/1020', 50_000],
  ])('resampling %s to %s Hz, %i frames', async (from, to, frames) => {
    const [compiled, plain] = await both(({ dsp }) => dsp.resample(noise(frames, 1), from, to));
    expect(plain).toEqual(compiled);
    expect(compiled.some((value) => value !== 0)).toBe(true);
  });

  test('loudness, true peak and levels', async () => {
    const sound = [noise(30_000, 2), noise(30_000, 3)];
    const [compiled, plain] = await both(({ audio, dsp }) => {
      const loudness = new dsp.LoudnessMeter(44_100, 2);
      const peak = new dsp.TruePeakMeter();
      const levels = new audio.LevelMeter(2);
      loudness.add(sound);
      peak.add(sound[0]);
      levels.add(sound);
      return [loudness.integrated(), peak.result(), levels.result()];
    });
    expect(plain).toEqual(compiled);
  });

  test('rounding, companded bytes and checksums', async () => {
    const levels = Int32Array.from({ length: 65_536 }, (_, i) => i - 32_768);
    const bytes = Uint8Array.from({ length: 3001 }, (_, i) => (i * 89) % 256);
    const [compiled, plain] = await both(({ crc32, dsp, encodingOf }) => [
      dsp.quantise([noise(500, 4), noise(500, 5)], { bits: 3, dither: 'none' }),
      ...['mu-law', 'a-law'].map((id) => {
        const encoding = encodingOf(id);
        return encoding.kind === 'integer' && [encoding.encode(levels), encoding.decode(bytes)];
      }),
      crc32(bytes),
    ]);
    expect(plain).toEqual(compiled);
  });

  test('mixing, splitting and reading 16-bit samples', async () => {
    const bytes = Uint8Array.from({ length: 4000 }, (_, i) => (i * 89) % 256);
    const [compiled, plain] = await both(({ audio, dsp, encodingOf, frameCodec }) => {
      const pair = frameCodec(encodingOf('pcm-s16le'), 2).decodeChannels(bytes);
      return [
        pair,
        frameCodec(encodingOf('pcm-s16le'), 1).decodeChannels(bytes),
        audio.deinterleave(noise(500, 4), 2),
        dsp.mix(pair, [[0.3, -0.6]]),
        audio.peakOf(pair[0]),
      ];
    });
    expect(plain).toEqual(compiled);
  });
});
