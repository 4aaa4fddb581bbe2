import { describe, expect, test } from 'vitest';
import type { Pcm } from '../audio/index.ts';
import { inMemory } from '../bytes/index.ts';
import { insert, type Player, type Playing, roundsOf } from './index.ts';

/** A sine of `cycles` in so many frames: it follows upon itself without a step. */
const sine = (frames: number, cycles: number, sampleRate: number, amplitude = 0.5): Pcm => ({
  sampleRate,
  channels: [
    Float32Array.from({ length: frames }, (_, i) => amplitude * Math.sin((2 * Math.PI * cycles * i) / frames)),
  ],
});

const asIs = (block: readonly Float32Array[]) => block;

/** How sounds are heard on a device that does these things: whatever it plays. */
async function hearOf(player: Player, sampleRate: number): Promise<ReturnType<Playing['hear']>> {
  const assumes = { sampleRate, encoding: 'pcm-u8', channels: 1 };
  const card = [{ path: 'x.raw', bytes: inMemory(new Uint8Array(8)) }];
  const device = await insert(card, { player: { reads: 'bare', assumes, ...player }, lists: [], packs: [] });
  return (await device.play('x.raw')).hear();
}

const greatest = (samples: ArrayLike<number>) =>
  Array.from(samples).reduce((most, x) => Math.max(most, Math.abs(x)), 0);

describe('a sound that follows upon itself', () => {
  test('is what it is in every round, where nothing happens to it', () => {
    const round = sine(441, 7, 44_100);
    expect(roundsOf(round, asIs, 44_100)).toEqual([round, round]);
  });

  test.each([
    [8000, 800, 100],
    [44_100, 4410, 30],
    [96_000, 9600, 12],
  ])('at another rate, from %i Hz, goes on without a seam', (sampleRate, frames, cycles) => {
    const [, again] = roundsOf(sine(frames, cycles, sampleRate), asIs, 48_000);
    expect(again.channels[0]).toHaveLength(4800);
    const wanted = sine(4800, cycles, 48_000).channels[0] ?? [];
    expect(greatest((again.channels[0] ?? new Float32Array()).map((x, i) => x - wanted[i]))).toBeLessThan(1e-3);
  });

  test('through a loudspeaker, begins once: a level that the loudspeaker cannot make is heard as a start alone', async () => {
    const level: Pcm = { sampleRate: 8000, channels: [new Float32Array(8000).fill(0.5)] };
    const [first, again] = roundsOf(level, await hearOf({ speaker: { low: 100, high: 3000 } }, 8000), 8000);
    expect(greatest(first.channels[0] ?? [])).toBeGreaterThan(0.4);
    expect(greatest(again.channels[0] ?? [])).toBeLessThan(1e-6);
  });

  test.each([
    ['of the first round', 0.25, [6000, 8000]],
    ['of more than a round', 1.5, [0, 4000]],
  ])('of which the device loses the beginning: it is that %s', async (_, seconds, frames) => {
    const round = sine(8000, 5, 8000);
    const rounds = roundsOf(round, await hearOf({ locks: { seconds } }, 8000), 8000);
    expect(rounds.map(({ channels }) => channels[0]?.length)).toEqual(frames);
  });
});
