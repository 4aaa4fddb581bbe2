import { describe, expect, test } from 'vitest';
import { ownRate } from './own-rate.ts';

/** A sound as a function of time, so that no resampler is needed to have it at any rate: notes with partials, each dying away. */
function soundOf(seed: number, seconds: number): (t: number) => number {
  let state = seed;
  const random = () => {
    state = (state * 48_271) % 2_147_483_647;
    return state / 2_147_483_647;
  };
  const notes: { start: number; decay: number; partials: { hz: number; gain: number }[] }[] = [];
  for (let start = 0; start < seconds; start += 0.08 + 0.4 * random()) {
    const hz = 220 * 2 ** (3 * random());
    const partials = [1, 2, 3].map((k) => ({ hz: hz * k, gain: random() / k })).filter((one) => one.hz < 2600);
    notes.push({ start, decay: 3 + 8 * random(), partials });
  }
  return (t) => {
    let value = 0;
    for (const { start, decay, partials } of notes) {
      const age = t - start;
      if (age < 0 || age > 1.2) continue;
      const level = 0.3 * Math.exp(-decay * age) * Math.min(1, 200 * age);
      for (const { hz, gain } of partials) value += level * gain * Math.sin(2 * Math.PI * hz * age);
    }
    return value;
  };
}

const sampled = (sound: (t: number) => number, from: number, seconds: number, sampleRate: number, gain = 1) => ({
  sampleRate,
  // Eight bits, as such devices have them.
  channels: [
    Float32Array.from({ length: Math.round(seconds * sampleRate) }, (_, i) =>
      sampleRate > 16_000 ? sound(from + i / sampleRate) : Math.round(127 * gain * sound(from + i / sampleRate)) / 127,
    ),
  ],
});

const RATES = [6000, 8000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000];

const sound = soundOf(11, 40);
const source = sampled(sound, 0, 40, 22_050);

describe('the rate of bare samples, by the source of which they are a cut', () => {
  test.each(
    Array.from({ length: 16 }, (_, i) => ({
      made: RATES[i % RATES.length],
      taken: RATES[(3 * i + 5) % RATES.length],
      seconds: [1, 2.5, 4, 8][i % 4],
      from: [0, 7.3, 20, 31.6][Math.floor(i / 4)],
      gain: [1, 0.25][i % 2],
    })),
  )('$seconds s from $from s, made for $made Hz and taken for $taken Hz', ({ made, taken, seconds, from, gain }) => {
    const cut = sampled(sound, from, seconds, made, gain);
    expect(ownRate({ ...cut, sampleRate: taken }, source)).toBe(made);
    // The source at hand may be less than what the file holds.
    if (seconds >= 4)
      expect(ownRate({ ...cut, sampleRate: taken }, sampled(sound, from + 1, seconds / 2, 22_050))).toBe(made);
  });

  test('of a file that was made of something else nothing is said', () => {
    for (const seed of [5, 50, 500, 5000]) {
      const other = sampled(soundOf(seed, 12), 2, 3, 8000);
      expect(ownRate({ ...other, sampleRate: 16_000 }, source)).toBeNull();
    }
  });
});
