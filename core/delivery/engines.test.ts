import { afterEach, expect, test, vi } from 'vitest';
import type { Pcm } from '../audio/index.ts';
import { crc32, wholeOf } from '../bytes/index.ts';
import type { ClipSettings } from '../chain/index.ts';

/**
 * Files are the same whatever engine makes them. Engines differ in the last binary digits of sines and logarithms. One is
 * played here that is off by some hundred times as much, so that one sound shows what would otherwise show in hundreds.
 * Powers (`**`) cannot be changed from outside; they go through the same grid. Fades are left out: they multiply each
 * frame by a number of its own, which the sample is rounded after.
 */
const ERROR = 2 ** -44;

const NAMES = ['sin', 'cos', 'tan', 'exp', 'log', 'log2', 'log10', 'pow', 'atan2'] as const;

let state = 1;
const next = () => {
  state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
  return state / 2 ** 32;
};

const exact = { ...Object.fromEntries(NAMES.map((name) => [name, Math[name]])), sin: Math.sin };

function otherEngine(): void {
  for (const name of NAMES) {
    const original = Math[name] as (...values: number[]) => number;
    // A number that is exact in every engine, as the sine of 0, stays so.
    Math[name] = (...values: number[]) => {
      const value = original(...values);
      return Number.isInteger(value) ? value : value * (1 + (2 * next() - 1) * ERROR);
    };
  }
}

afterEach(() => void Object.assign(Math, exact));

const sound: Pcm = {
  sampleRate: 44_100,
  channels: [0.02, 0.031].map((step) =>
    Float32Array.from({ length: 60_000 }, (_, i) =>
      i % 20_000 < 1000 ? 0 : 0.6 * exact.sin(i * step) * exact.sin(i / 3000),
    ),
  ),
};

type Change = Partial<ClipSettings>;

const everything: readonly (readonly [string, Change])[] = [
  [
    'a new rate, filters, loudness, limiter, shaped dither',
    {
      rate: { sampleRate: 16_000 },
      level: { loudness: -14, highPass: 90, telephoneBand: true, removeDc: true, limitDb: -1 },
      depth: { bits: 8, dither: 'shaped' },
    },
  ],
  [
    'a timer, a true peak',
    {
      rate: { sampleRate: '16000000/1020' },
      level: { truePeakDb: -3 },
    },
  ],
  ['a peak, silence', { level: { peakDb: -0.5 }, ends: { front: { ms: 20 }, trim: {} } }],
  ['a gain, the seam of a loop', { level: { gainDb: -3.3 }, ends: { loop: { searchMs: 60, crossFadeMs: 30 } } }],
  [
    'bars by stretching, equal power',
    { channels: { mode: 'equal-power' }, ends: { bars: { count: 1, beats: 4, tempo: 181, by: 'stretch' } } },
  ],
  [
    'floating point',
    {
      rate: { sampleRate: 48_000 },
      level: { highPass: 60, loudness: -20 },
      wrap: { container: 'wav', encoding: 'float-32le' },
    },
  ],
  ['ADPCM', { rate: { sampleRate: 8000 }, wrap: { container: 'wav', encoding: 'ima-adpcm' } }],
];

/** The whole way in an engine of its own: nothing of an earlier one is remembered. */
async function sumOf(change: Change): Promise<number> {
  vi.resetModules();
  const { makeFrom } = await import('./fixtures/make.ts');
  const { automaticSettings } = await import('../chain/index.ts');
  const { targetOf } = await import('../targets/index.ts');
  const target = {
    ...targetOf('portable-player'),
    player: {},
    requirements: [{ key: 'container', kind: 'container' as const, anyOf: ['wav'] }],
  };
  const { file } = await makeFrom(sound, { ...automaticSettings('x'), ...change }, target);
  return crc32(wholeOf(file));
}

test.each(everything)('the same bytes from an engine that calculates otherwise: %s', async (_, change) => {
  const ours = await sumOf(change);
  for (let seed = 1; seed <= 3; seed++) {
    state = seed;
    otherEngine();
    expect(await sumOf(change)).toBe(ours);
    Object.assign(Math, exact);
  }
});
