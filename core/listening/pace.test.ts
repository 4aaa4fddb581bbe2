import { expect, test } from 'vitest';
import { BANDS_RATE, listened } from '../dsp/index.ts';
import { paceOf } from './pace.ts';
import { likelyRates } from './rates.ts';

/** Tones (Hz, turn, fall per second) that are computed at any time, so that no pace is made out of another. */
const SOUNDS: Readonly<Record<string, readonly (readonly [hz: number, turn: number, fall: number])[]>> = {
  'a low tone': [[350, 0, 0]],
  'a high tone': [[2950, 0, 0]],
  'two tones that die away': [
    [587.3, 0.3, 1.5],
    [466.2, 1.1, 1.2],
  ],
  'many partials': Array.from({ length: 12 }, (_, i) => [220 * (i + 1) + 3 * i * i, i, 0.2 * i] as const),
};

/** A sound at a pace, after some silence, its tones turned as a room turns them, with a soft noise. */
function made(
  tones: (typeof SOUNDS)[string],
  seconds: number,
  pace: number,
  delay: number,
  turned: number,
): Float32Array {
  let state = 12345;
  const noise = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32 - 0.5;
  };
  return Float32Array.from({ length: Math.round(seconds * BANDS_RATE * pace) + 2 * delay }, (_, i) => {
    const t = (i - delay) / BANDS_RATE / pace;
    const isThere = t >= 0 && t < seconds;
    const tone = ([hz, turn, fall]: (typeof tones)[number], k: number) =>
      Math.exp(-fall * t) * Math.sin(2 * Math.PI * hz * t + turn + turned * k * k);
    const sum = isThere ? tones.map(tone).reduce((a, b) => a + b, 0) : 0;
    return sum / tones.length + (turned ? 0.05 * noise() : 0);
  });
}

const PACES = [0.988, 0.9953, 1, 1.0017, 1.0124];
const CASES = Object.entries(SOUNDS).flatMap(([name, tones]) => PACES.map((pace) => ({ name, pace, tones })));
test.each(
  [4, 0.4].flatMap((seconds) => CASES.map((one) => ({ ...one, seconds }))),
)('$name of $seconds s at a pace of $pace is found: a long one within 0.02 %, a short one within 0.1 %', ({
  seconds,
  pace,
  tones,
}) => {
  const recording = made(tones, seconds, pace, 3000, 2.3);
  const found = paceOf(made(tones, seconds, 1, 0, 0), recording, 3100);
  expect(Math.abs(found / pace - 1)).toBeLessThan(seconds > 1 ? 2e-4 : 1e-3);
});

test('rates of sounds that are very short, slow or fast are looked for without a fault', () => {
  const recording = listened(Float32Array.from({ length: 8000 }, (_, i) => Math.sin(0.3 * i)));
  for (const sampleRate of [20, 100, 8000, 192_000, 1_000_000]) {
    for (const frames of [1, 3, 20, 1000, 20_000]) {
      const sound = Float32Array.from({ length: frames }, (_, i) => Math.sin(0.3 * i));
      for (const rate of likelyRates(sound, sampleRate, recording)) expect(rate).toBeGreaterThan(50);
    }
  }
});
