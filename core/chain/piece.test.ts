import { describe, expect, test } from 'vitest';
import type { Pcm } from '../audio/index.ts';
import { openPlain } from '../facts/fixtures/open-plain.ts';
import { askedBy, type Target, targetOf } from '../targets/index.ts';
import { rendered } from './fixtures/render.ts';
import { wavSheet } from './fixtures/sheets.ts';
import { factsFor } from './fixtures/sources.ts';
import { automaticSettings, type Chain, parseSettings, pieceOf, settle } from './index.ts';

const FROM = 44_100;
const seconds = 6;
/** A few tones that come and go, the loudest of them early. */
const sound: Pcm = {
  sampleRate: FROM,
  channels: [220, 331].map((hz) =>
    Float32Array.from(
      { length: seconds * FROM },
      (_, i) => (0.6 - (0.08 * i) / FROM) * Math.sin((2 * Math.PI * hz * i) / FROM) * Math.sin(i / 3e4),
    ),
  ),
};
const sheet = (...requirements: Target['requirements']): Target =>
  wavSheet({ key: 'encoding', kind: 'encoding', anyOf: ['float-32le'] }, ...requirements);
const chainOf = (target: Target, wishes: object = {}): Chain =>
  settle({ facts: factsFor(sound), settings: parseSettings({ ...automaticSettings('x'), ...wishes }), target });
const samplesOf = async (chain: Chain) => openPlain((await rendered(chain, sound)).bytes).pcm.channels;

describe('a piece', () => {
  const peak = { key: 'peak', kind: 'peak', goal: -1, advised: true } as const;
  test.each([
    ['as it is', sheet(), {}, []],
    ['by a gain, as mono', sheet({ key: 'channels', kind: 'channels', anyOf: [1] }), { level: { gainDb: -3 } }, []],
    ['at another rate', sheet({ key: 'rate', kind: 'sample-rate', anyOf: [8000] }), {}, []],
    ['brought to a peak', sheet(peak), {}, ['the level']],
    [
      'padded and faded',
      sheet({ key: 'frames', kind: 'frames', multipleOf: 1000, least: 400_000 }),
      { ends: { fadeIn: { ms: 10 } } },
      ['fades'],
    ],
  ])('%s is what the whole has there', async (_, target, wishes, provisional) => {
    const chain = chainOf(target, wishes);
    const whole = await samplesOf(chain);
    // Both ends are whole frames at either rate: 441 of one are 80 of the other.
    const range = { start: 441 * 200, end: 441 * 300 };
    const piece = pieceOf(chain, range);
    expect(piece.provisional).toEqual(provisional);
    const part = await samplesOf(piece.chain);
    const scale = chain.stations.rate.plan.to / FROM;
    const [start, end] = [range.start * scale, range.end * scale];
    // Where it begins and ends it is a sound of its own.
    const edge = Math.round(0.05 * chain.stations.rate.plan.to);
    expect(part).toHaveLength(whole.length);
    part.forEach((samples, channel) => {
      expect(samples.length).toBeGreaterThanOrEqual(end - start);
      for (let i = edge; i < end - start - edge; i += 7) {
        expect(Math.abs(samples[i] - whole[channel][start + i])).toBeLessThan(2e-4);
      }
    });
  });

  test('is never in the way of a rule of length, and says nothing of the noise that is shaped', async () => {
    const target = sheet({ key: 'duration', kind: 'duration', most: 1 });
    expect(chainOf(target).obstacles).toHaveLength(1);
    expect(pieceOf(chainOf(target), { start: 0, end: FROM }).chain.obstacles).toEqual([]);
    const shaped = chainOf(
      { ...target, requirements: [askedBy(target)[0], { key: 'e', kind: 'encoding', anyOf: ['pcm-u8'] }] },
      { depth: { dither: 'shaped' } },
    );
    const words = (chain: Chain) => pieceOf(chain, { start: 0, end: FROM }).provisional;
    expect(words(shaped)).toEqual(['the shaped noise']);
    expect(words(chainOf(sheet(), { ends: { trim: {} } }))).toEqual(['where it begins and ends']);
    expect(words(chainOf(targetOf('portable-player')))).toEqual(['what MP3 loses, near the ends of a piece']);
    // FLAC loses nothing.
    expect(words(chainOf(targetOf('archive-copy')))).toEqual([]);
  });
});
