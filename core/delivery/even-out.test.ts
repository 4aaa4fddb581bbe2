import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Pcm } from '../audio/index.ts';
import { sources } from '../chain/fixtures/sources.ts';
import { type ClipSettings, parseSettings } from '../chain/index.ts';
import { sine } from '../dsp/fixtures/sine.ts';
import { fromDb, toDb } from '../numbers/index.ts';
import { targetOf } from '../targets/index.ts';
import { makeFrom } from './fixtures/make.ts';
import { evenOut } from './index.ts';

const clip = fc.record({
  loudness: fc.option(fc.double({ min: -60, max: -5, noNaN: true }), { freq: 6 }),
  truePeak: fc.double({ min: 0.001, max: 1.5, noNaN: true }),
});

describe('one loudness for a set', () => {
  test('no true peak exceeds the ceiling, and one reaches it unless the wish is met', () => {
    const wish = fc.option(fc.double({ min: -40, max: -5, noNaN: true }));
    fc.assert(
      fc.property(fc.array(clip, { minLength: 1, maxLength: 8 }), wish, (clips, wished) => {
        const { loudness, gains, bound } = evenOut(clips, -1, wished);
        if (loudness === null) {
          expect(clips.every((entry) => entry.loudness === null)).toBe(true);
          expect(gains.every((gain) => gain === 0)).toBe(true);
          return;
        }
        const peaks = clips.map(({ truePeak }, i) => (clips[i].loudness === null ? -1 : toDb(truePeak) + gains[i]));
        for (const peak of peaks) expect(peak).toBeLessThanOrEqual(-1 + 1e-9);
        clips.forEach((entry, i) => {
          if (entry.loudness !== null) expect(entry.loudness + gains[i]).toBeCloseTo(loudness, 9);
        });
        if (bound === null) expect(loudness).toBe(wished);
        else expect(peaks[bound]).toBeCloseTo(-1, 9);
        if (wished !== null) expect(loudness).toBeLessThanOrEqual(wished);
      }),
    );
  });

  test('clips that were measured and made anew have it', async () => {
    const tones: Pcm[] = [
      { sampleRate: 48_000, channels: [sine(48_000, 1.2, 997, 0.05)] },
      { sampleRate: 44_100, channels: [sine(44_100, 0.9, 2500, 0.6)] },
      sources.plain,
    ];
    const target = targetOf('i2s-amplifier-board');
    const make = (pcm: Pcm, level: ClipSettings['level']) => makeFrom(pcm, parseSettings({ name: 'x', level }), target);
    const before = await Promise.all(tones.map((pcm) => make(pcm, { gainDb: 0 })));
    const { loudness } = evenOut(
      before.map(({ facts }) => facts.measures),
      -1,
      null,
    );
    const after = await Promise.all(tones.map((pcm) => make(pcm, { loudness: loudness ?? 0, ceilingDb: -1 })));
    for (const { facts } of after) {
      expect(facts.measures.loudness).toBeCloseTo(loudness ?? 0, 1);
      expect(facts.measures.truePeak).toBeLessThan(fromDb(-0.9));
    }
    expect(Math.max(...after.map(({ facts }) => toDb(facts.measures.truePeak)))).toBeCloseTo(-1, 1);
  });
});
