import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Pcm } from '../audio/index.ts';
import { crc32 } from '../bytes/index.ts';
import { fitSine, sine } from '../dsp/fixtures/sine.ts';
import { openPlain } from '../facts/fixtures/open-plain.ts';
import { checkReport } from '../findings/index.ts';
import { fromDb, toDb } from '../numbers/index.ts';
import { targetOf } from '../targets/index.ts';
import { centsOf, layOut, lengthOf } from './ends-layout.ts';
import { rendered } from './fixtures/render.ts';
import { wavSheet } from './fixtures/sheets.ts';
import { factsFor, sources } from './fixtures/sources.ts';
import {
  alternativesOf,
  automaticSettings,
  type ClipSettings,
  idealSignalToNoise,
  parseSettings,
  settle,
} from './index.ts';

const free = wavSheet({ key: 'encoding', kind: 'encoding', anyOf: ['float-32le'] });
const shorts = wavSheet({ key: 'encoding', kind: 'encoding', anyOf: ['pcm-s16le'] });

type Change = Partial<Record<keyof ClipSettings, unknown>>;
const settled = (pcm: Pcm, change: Change = {}, sheet = free) =>
  settle({ facts: factsFor(pcm), settings: parseSettings({ ...automaticSettings('x'), ...change }), target: sheet });

/** Makes a file and opens it again. */
async function make(pcm: Pcm, change: Change = {}, sheet = free) {
  const chain = settled(pcm, change, sheet);
  const { bytes, report } = await rendered(chain, pcm);
  const opened = openPlain(bytes);
  return { chain, report, facts: opened.facts, channels: opened.pcm.channels };
}

const mono = (samples: Float32Array, sampleRate = 44_100): Pcm => ({ sampleRate, channels: [samples] });

/** Frames of silence, of sound, of silence. */
const padded = (front: number, sound: Float32Array, back: number) => {
  const out = new Float32Array(front + sound.length + back);
  out.set(sound, front);
  return out;
};

describe('channels by hand', () => {
  test.each([
    ['left', {}, [[1, 0]]],
    ['right', {}, [[0, 1]]],
    ['one', { channel: 1 }, [[0, 1]]],
    ['mix', {}, [[0.5, 0.5]]],
    ['equal-power', {}, [[Math.SQRT1_2, Math.SQRT1_2]]],
    ['side', {}, [[0.5, -0.5]]],
    ['weights', { weights: [0.25, -1] }, [[0.25, -1]]],
    [
      'keep',
      {},
      [
        [1, 0],
        [0, 1],
      ],
    ],
  ] as const)('%s', (mode, more, matrix) => {
    const { plan } = settled(sources.plain, { channels: { mode, ...more } }).stations.channels;
    plan.matrix.forEach((row, r) => {
      row.forEach((weight, c) => {
        expect(weight).toBeCloseTo(matrix[r][c], 12);
      });
    });
  });

  test.each([
    [{ mode: 'one', channel: 2 }, 'choose channel 1 to 2'],
    [{ mode: 'weights', weights: [1] }, 'give 2 weights'],
    [{ mode: 'weights', weights: [1, 9] }, 'channels.weights'],
  ])('%j is refused in words', (channels, words) => expect(() => settled(sources.plain, { channels })).toThrow(words));

  test('only stereo has a side signal; mono becomes stereo when asked', () => {
    expect(() => settled(sources.quiet, { channels: { mode: 'side' } })).toThrow('only stereo has a side signal');
    expect(settled(sources.quiet, { channels: { mode: 'stereo' } }).stations.channels.plan.matrix).toEqual([[1], [1]]);
  });

  test('sides that are upside down keep their full level when one is inverted', async () => {
    const sheet = wavSheet(
      { key: 'channels', kind: 'channels', anyOf: [1] },
      { key: 'encoding', kind: 'encoding', anyOf: ['float-32le'] },
    );
    const { channels } = await make(sources.outOfPhase, {}, sheet);
    expect(channels).toEqual([sources.outOfPhase.channels[0]]);
  });

  test('a mix that may be too loud says so, and what flattens is a finding with the count', async () => {
    const loud: Pcm = { sampleRate: 8000, channels: [sine(8000, 1, 100, 0.9), sine(8000, 1, 100, 0.9)] };
    const { chain, report } = await make(loud, { channels: { mode: 'equal-power' } }, shorts);
    expect(chain.stations.channels.why).toContain('3.0 dB louder');
    // The part of a sine of 1.273 that lies above 1: 1 - 2 asin(1 / 1.273) / pi.
    const share = 1 - (2 * Math.asin(1 / (0.9 * Math.SQRT2))) / Math.PI;
    expect(Math.abs(report.clippedFrames - 8000 * share)).toBeLessThan(250);
    const [finding] = checkReport(report);
    expect(finding).toMatchObject({ requirement: 'headroom', verdict: 'advises' });
    expect(finding.mend).toContain('2.1 dB');
    expect(checkReport({ ...report, clippedFrames: 0 })).toEqual([]);
  });
});

describe('rates that timers make', () => {
  test.each([
    ['16000000/1020', 16_000_000 / 1020],
    [15_686.275, 15_686.275],
  ])('%s Hz: length and pitch are those of the real rate', async (sampleRate, hz) => {
    const { chain, channels, facts } = await make(mono(sine(44_100, 3, 1000)), { rate: { sampleRate } });
    expect(channels[0]).toHaveLength(Math.round(3 * hz));
    // A header has room for whole numbers only.
    expect(facts.sampleRate).toBe(15_686);
    const { amplitude, noiseDb } = fitSine(channels[0], hz, 1000, 3000, 40_000);
    expect(amplitude).toBeCloseTo(0.9, 4);
    expect(noiseDb).toBeLessThan(-90);
    expect(chain.stations.rate.figure).toMatch(/^15\u202f686\.2[78] Hz$/);
  });

  test.each([
    { sampleRate: '16000000/0' },
    { sampleRate: '10/3' },
    { sampleRate: 'fast' },
    { sampleRate: 999 },
  ])('%j is refused', (rate) => expect(() => settled(sources.plain, { rate })).toThrow('rate.sampleRate'));

  test('draft says so', () => {
    const { rate } = settled(sources.plain, { rate: { sampleRate: 8000, quality: 'draft' } }).stations;
    expect(rate.figure).toContain('draft');
    expect(rate.why).toContain('80 dB');
  });
});

describe('level', () => {
  const tone = mono(sine(48_000, 4, 997, 0.1), 48_000);

  test.each([
    ['a gain', { gainDb: 6 }, (facts: { peak: number }) => toDb(facts.peak), -14],
    ['a peak', { peakDb: -3 }, (facts: { peak: number }) => toDb(facts.peak), -3],
    ['a true peak', { truePeakDb: -2 }, (facts: { truePeak: number }) => toDb(facts.truePeak), -2],
    // EBU Tech 3341 (from memory): a sine of 1 kHz at -23 dBFS in both channels is -23 LUFS; in one it is 3 dB less.
    ['a loudness', { loudness: -23 }, (facts: { peak: number }) => toDb(facts.peak), -20],
  ])('%s is met', async (_, level, figure, wanted) => {
    const { facts } = await make(tone, { level });
    expect(figure({ peak: facts.levels.peak[0], truePeak: facts.measures.truePeak })).toBeCloseTo(wanted, 1);
  });

  test.each([1000, 2000, 3300, 8000])('a loudness is met at %d Hz as at any rate', async (rate) => {
    const low = mono(sine(48_000, 4, 200, 0.1), 48_000);
    const { facts, channels } = await make(low, { rate: { sampleRate: rate }, level: { loudness: -23 } });
    // K-weighting leaves 200 Hz nearly as it is (BS.1770-4, figure 4): a sine of -20 dBFS RMS counts some -20.9 LUFS.
    const power = channels[0].reduce((sum, value) => sum + value * value, 0) / channels[0].length;
    expect(10 * Math.log10(power) - 0.69).toBeGreaterThan(-23.5);
    expect(10 * Math.log10(power) - 0.69).toBeLessThan(-22.5);
    expect(facts.measures.loudness).toBeCloseTo(-23, 1);
  });

  test('a loudness stops at the ceiling of the true peak', async () => {
    const click = mono(padded(8000, Float32Array.of(0.5, -0.5), 40_000), 48_000);
    const { facts, report } = await make(click, { level: { loudness: -10, ceilingDb: -3 } });
    expect(toDb(facts.measures.truePeak)).toBeCloseTo(-3, 1);
    expect(report.gainDb).toBeLessThan(6);
  });

  test('the limiter holds its ceiling where a gain would exceed it, and says what it did', async () => {
    const bursts = mono(
      sine(48_000, 2, 200, 0.5).map((value, i) => (i % 24_000 < 2000 ? value : value / 10)),
      48_000,
    );
    const { facts, report } = await make(bursts, { level: { gainDb: 12, limitDb: -1 } }, shorts);
    expect(toDb(facts.levels.peak[0])).toBeLessThanOrEqual(-0.99);
    expect(report.clippedFrames).toBe(0);
    expect(report.limited?.mostDb).toBeCloseTo(6 + 1, 0.5);
    expect(report.limited?.frames).toBeGreaterThan(1000);
  });

  test('an offset goes, low tones and high tones go, silence stays', async () => {
    const offset = mono(sine(16_000, 1, 1000, 0.3).map((value) => value + 0.2));
    expect((await make(offset, { level: { removeDc: true } })).facts.levels.dcOffset[0]).toBeCloseTo(0, 6);
    const high = sine(16_000, 2, 1000, 0.3);
    const both = sine(16_000, 2, 50, 0.3).map((value, i) => value + high[i]);
    const { channels } = await make(mono(both, 16_000), { level: { telephoneBand: true } });
    expect(fitSine(channels[0], 16_000, 50, 8000, 32_000).amplitude).toBeLessThan(0.001);
    expect(fitSine(channels[0], 16_000, 1000, 8000, 32_000).amplitude).toBeCloseTo(0.3, 2);
    const silent = await make(sources.silent, { level: { removeDc: true, highPass: 100, loudness: -16, limitDb: -1 } });
    expect(silent.channels.every((samples) => samples.every((value) => value === 0))).toBe(true);
  });

  test.each([
    [{ peakDb: -1, gainDb: 3 }, 'one goal at a time'],
    [{ highPass: 999, removeDc: 1 }, 'level.removeDc'],
  ])('%j is refused in words', (level, words) => expect(() => settled(tone, { level })).toThrow(words));
});

describe('ends', () => {
  const rate = 8000;
  const ms = (frames: number) => (frames / rate) * 1000;
  const block = sine(rate, 0.5, 440, 0.5).map((value) => value + 0.3);
  const sound = mono(padded(800, block, 1600), rate);

  test('silence is trimmed, but for what is to be kept', async () => {
    const { channels, report } = await make(sound, { ends: { trim: { keepMs: ms(80) } } });
    expect(channels[0]).toEqual(sound.channels[0].subarray(720, 800 + 4000 + 80));
    expect(report.trimmed).toEqual({ front: 720, back: 1520 });
  });

  test('a sound that is below the threshold altogether is refused in words', async () => {
    await expect(make(sources.quiet, { ends: { trim: { thresholdDb: -20 } } })).rejects.toThrow(
      'nothing is louder than the trim threshold',
    );
  });

  test('silence is added, or only what is missing of it', async () => {
    const plain = await make(sound, { ends: { front: { ms: 200 }, back: { ms: 100 } } });
    expect(plain.channels[0]).toEqual(padded(1600, sound.channels[0], 800));
    const least = await make(sound, { ends: { front: { ms: 200, atLeast: true }, back: { ms: 100, atLeast: true } } });
    expect(least.channels[0]).toEqual(padded(800, sound.channels[0], 0));
  });

  test('fades begin and end with the sound, not with the silence around it', async () => {
    const flat = mono(new Float32Array(4000).fill(0.5), rate);
    const { channels } = await make(flat, {
      ends: { fadeIn: { ms: 50, shape: 'linear' }, fadeOut: { ms: 100, shape: 'linear' }, front: { ms: 10 } },
    });
    const out = channels[0];
    expect(out.subarray(0, 80).every((value) => value === 0)).toBe(true);
    expect(out[80 + 199]).toBeCloseTo((0.5 * 200) / 401, 6);
    expect(out[80 + 400]).toBe(0.5);
    expect(out[80 + 3999]).toBeCloseTo(0.5 / 801, 6);
    expect(out[80 + 3999 - 400]).toBeCloseTo((0.5 * 401) / 801, 6);
  });

  test.each([
    ['trim', 1000, 960],
    ['pad', 1000, 1200],
    ['nearest', 1000, 960],
    ['nearest', 1100, 1200],
    ['nearest', 100, 240],
  ])('blocks of 240 by %s: %i frames become %i', async (by, from, to) => {
    const sheet = wavSheet(
      { key: 'frames', kind: 'frames', multipleOf: 240 },
      { key: 'encoding', kind: 'encoding', anyOf: ['float-32le'] },
    );
    const { channels } = await make(mono(sine(rate, from / rate, 440), rate), { ends: { block: by } }, sheet);
    expect(channels[0]).toHaveLength(to);
  });

  test('an exact number of frames cuts or pads', async () => {
    expect((await make(sound, { ends: { frames: 1000 } })).channels[0]).toEqual(sound.channels[0].subarray(0, 1000));
    expect((await make(sound, { ends: { frames: 9000 } })).channels[0]).toEqual(padded(0, sound.channels[0], 2600));
  });

  // Common practice, no source: two bars of four beats at 120 a minute last four seconds.
  test('bars are exact: cut, padded, or stretched with the pitch change in cents', async () => {
    const loop = mono(sine(44_100, 4.1, 500));
    const bars = { count: 2, beats: 4, tempo: 120 };
    const cut = await make(loop, { ends: { bars } });
    expect(cut.channels[0]).toEqual(loop.channels[0].subarray(0, 4 * 44_100));
    const { chain, channels } = await make(loop, { ends: { bars: { ...bars, by: 'stretch' } } });
    expect(channels[0]).toHaveLength(4 * 44_100);
    const { amplitude } = fitSine(channels[0], 44_100, 500 * 1.025, 20_000, 150_000);
    expect(amplitude).toBeCloseTo(0.9, 3);
    // The bars that a sheet asks for are come to in the same way.
    const asked = wavSheet({ key: 'bars', kind: 'bars', anyOf: [1, 2, 4], beats: 4, tempo: 120 });
    const fitted = await make(loop, { ends: { fit: 'stretch' } }, asked);
    expect(fitted.channels[0]).toHaveLength(4 * 44_100);
    expect(fitSine(fitted.channels[0], 44_100, 500 * 1.025, 20_000, 150_000).amplitude).toBeCloseTo(0.9, 2);
    // 1 200 log2(4.1 / 4) = 42.7 cents.
    expect(centsOf(4.1, 4)).toBeCloseTo(42.7, 1);
    expect(chain.stations.ends.why).toContain('up by 42.7 cents');
  });

  test('a loop closes: no larger step at the seam than anywhere else, with and without a cross-fade', async () => {
    const tones = sine(rate, 1.03, 261.6, 0.5).map((value, i) => value + 0.2 * Math.sin(i * 0.331));
    for (const loop of [{ searchMs: 200 }, { searchMs: 200, crossFadeMs: 50 }]) {
      const { channels, report } = await make(mono(tones, rate), { ends: { loop } });
      const out = channels[0];
      const seam = Math.abs(out[0] - out[out.length - 1]);
      expect(report.loop?.step).toBeCloseTo(seam, 5);
      expect(seam).toBeLessThan(1.1 * (report.loop?.usualStep ?? 0));
      expect(out.length + (report.loop?.front ?? 0) + (report.loop?.back ?? 0)).toBe(tones.length);
    }
    expect(() => settled(mono(block, rate), { ends: { loop: { searchMs: 300 } } })).toThrow(
      'too short to look for a seam',
    );
  });

  test('whatever is wished, the layout adds up and holds its rule', () => {
    const side = fc.record({ frames: fc.nat(500), atLeast: fc.boolean() });
    const rule = fc.oneof(
      fc.record({
        kind: fc.constant('blocks' as const),
        multipleOf: fc.integer({ min: 1, max: 300 }),
        least: fc.integer({ min: 1, max: 600 }),
        by: fc.constantFrom('trim' as const, 'pad' as const, 'nearest' as const),
      }),
      fc.record({
        kind: fc.constant('exact' as const),
        frames: fc.integer({ min: 1, max: 3000 }),
        by: fc.constantFrom('cut' as const, 'stretch' as const),
      }),
    );
    fc.assert(
      fc.property(
        rule,
        side,
        side,
        fc.nat(900),
        fc.integer({ min: 1, max: 2000 }),
        (rules, front, back, from, kept) => {
          const layout = layOut({ rule: rules, front, back }, { from, to: from + kept, lead: 20, tail: 30 });
          const total = lengthOf(layout);
          if (rules.kind === 'exact') expect(total).toBe(rules.frames);
          else {
            expect(total % rules.multipleOf).toBe(0);
            expect(total).toBeGreaterThanOrEqual(rules.least);
          }
          for (const part of [layout.front, layout.back, layout.sound]) expect(part).toBeGreaterThanOrEqual(0);
          if (!layout.stretch) expect(layout.to - layout.from).toBe(layout.sound);
          expect(layout.to).toBeLessThanOrEqual(from + kept);
        },
      ),
    );
  });

  test('a sound that is too long to be kept, and made again for each look, comes out the same', async () => {
    const change = {
      ends: { trim: {}, loop: { searchMs: 20 } },
      level: { loudness: -20, removeDc: true, limitDb: -1 },
    };
    const chain = settled(sources.long, { cut: { start: 0, end: 200_000 }, rate: { sampleRate: 22_050 }, ...change });
    const kept = await rendered(chain, sources.long);
    const again = await rendered(chain, sources.long, { mostKept: 0 });
    expect(again.report).toEqual(kept.report);
    expect(crc32(again.bytes)).toBe(crc32(kept.bytes));
  });
});

describe('depth', () => {
  // What a lossy encoding stores are no samples: it has no depth, floating-point or other.
  test.each(['mp3', 'aac', 'vorbis', 'opus'])('%s has no levels to set, and says so', (encoding) => {
    const container = { mp3: 'mp3', aac: 'mp4' }[encoding] ?? 'ogg';
    const rate = encoding === 'opus' ? { sampleRate: 48_000 } : {};
    const chain = settled(mono(sine(44_100, 1, 440, 0.5), 44_100), { wrap: { container, encoding }, rate });
    expect(chain.stations.depth.plan.bits).toBeNull();
    expect(chain.stations.depth.figure).toBe('lossy');
    expect(chain.stations.depth.why).toMatch(/no levels to set: its bit rate decides/);
    expect(chain.stations.depth.why).not.toMatch(/float/i);
  });

  // Textbook: signal-to-noise of a full-scale sine is 6.02 N + 1.76 dB.
  test.each([4, 8, 12, 16])('%i bits: what was measured of a full-scale sine is 6.02 N + 1.76 dB', async (bits) => {
    const top = 1 - 2 ** -(bits - 1);
    const full = mono(sine(48_000, 1, 997, top), 48_000);
    const { report } = await make(full, { depth: { bits, dither: 'none' } }, shorts);
    expect(idealSignalToNoise(bits)).toBeCloseTo(6.02 * bits + 1.76, 1);
    // The highest level lies one step below full scale.
    expect(Math.abs((report.signalToNoiseDb ?? 0) - toDb(top) - idealSignalToNoise(bits))).toBeLessThan(0.6);
    expect(report.rangeUsed).toBeGreaterThan(0.93);
  });

  test('a quiet sound uses few levels, mu-law counts its own error, floating point has none', async () => {
    const quiet = mono(sine(8000, 1, 440, fromDb(-42)), 8000);
    const { report } = await make(quiet, { depth: { bits: 8, dither: 'none' } }, shorts);
    expect(report.rangeUsed).toBeCloseTo(3 / 256, 2);
    const law = wavSheet({ key: 'encoding', kind: 'encoding', anyOf: ['mu-law'] });
    const { report: companded } = await make(mono(sine(8000, 1, 440, 0.9), 8000), {}, law);
    // ITU-T G.712 wants 33 dB and more of a full-size tone (from memory); the law itself gives some 38 dB.
    expect(companded.signalToNoiseDb).toBeGreaterThan(33);
    expect(companded.signalToNoiseDb).toBeLessThan(42);
    expect((await make(quiet)).report.signalToNoiseDb).toBeNull();
  });
});

test('of 12 bits in FLAC it is said that some readers cannot open it, and 16 are offered, losing nothing', () => {
  const facts = { ...factsFor(sources.plain), encoding: 'pcm-s12le', bitDepth: 12 };
  const order = (change: Change) => ({
    facts,
    settings: parseSettings({ ...automaticSettings('x'), ...change }),
    target: targetOf('archive-copy'),
    stem: 'x',
  });
  const { depth } = settle(order({})).stations;
  expect([depth.plan.bits, depth.why]).toEqual([
    12,
    expect.stringMatching(/cannot open FLAC of 12 bits; with 16 all can/),
  ]);
  const offered = alternativesOf(settle(order({})), 'depth').find(({ label }) => label === '16 bit');
  expect(offered?.chain.stations.depth.plan).toMatchObject({ bits: 16, dither: 'none' });
  // Any other number of bits is what it was.
  expect(settle(order({ depth: { bits: 20 } })).stations.depth.plan.bits).toBe(12);
});
