import fc from 'fast-check';
import { expect, test } from 'vitest';
import { PEAK_STEP, peaksOf } from '../audio/index.ts';
import { envelopeOf, findParts, joinPart, type Part, proposedThreshold, splitPart } from './parts.ts';

const RATE = 16_000;
const RULES = { thresholdDb: -40, leastSilence: 0.3, leastPart: 0.1, margin: 0.05 };

/** Words and pauses in seconds by turns, over a noise floor of -66 dBFS. */
function recording(...lengths: readonly number[]): Float32Array {
  const parts = lengths.map((seconds, i) =>
    Float32Array.from({ length: Math.round(seconds * RATE) }, (_, k) => (i % 2 ? 0.0005 : 0.3) * Math.sin(k * 0.3)),
  );
  const out = new Float32Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

const partsOf = (sound: Float32Array, rules = RULES) =>
  findParts(envelopeOf(peaksOf([sound], PEAK_STEP)), PEAK_STEP, sound.length, RATE, rules);

const inSeconds = (parts: readonly Part[]) => parts.map(({ start, end }) => [start / RATE, end / RATE]);

test('three prompts between two silences, each with its margin, exact to a bin of the envelope', () => {
  const wanted = [
    [0, 1.05],
    [1.95, 3.55],
    [4.45, 5.5],
  ];
  const found = inSeconds(partsOf(recording(1, 1, 1.5, 1, 1)));
  expect(found).toHaveLength(3);
  found.forEach((part, i) => {
    part.forEach((edge, k) => {
      expect(Math.abs(edge - wanted[i][k])).toBeLessThanOrEqual((2 * PEAK_STEP) / RATE);
    });
  });
});

test.each([
  ['a short breath does not divide', recording(1, 0.2, 1), RULES, 1],
  ['it does where a shorter silence is allowed', recording(1, 0.2, 1), { ...RULES, leastSilence: 0.1 }, 2],
  ['a click is no part', recording(0.02, 1, 1), RULES, 1],
  ['it is where shorter parts are allowed', recording(0.02, 1, 1), { ...RULES, leastPart: 0.01 }, 2],
  ['silence has no parts', recording(0, 2), RULES, 0],
])('%s', (_, sound, rules, count) => expect(partsOf(sound, rules)).toHaveLength(count));

test('the proposed threshold lies between the floor and the words', () => {
  const threshold = proposedThreshold(envelopeOf(peaksOf([recording(1, 1, 1, 1)], PEAK_STEP)));
  expect(threshold).toBeGreaterThan(-66);
  expect(threshold).toBeLessThan(-11);
  expect(partsOf(recording(1, 1, 1, 1), { ...RULES, thresholdDb: threshold })).toHaveLength(2);
});

test('parts never overlap, stand in order, lie inside the recording, and splitting and joining undo each other', () => {
  const seconds = fc.double({ min: 0, max: 1.2, noNaN: true });
  fc.assert(
    fc.property(
      fc.array(seconds, { minLength: 1, maxLength: 9 }),
      fc.double({ min: 0, max: 0.5, noNaN: true }),
      fc.nat(100),
      (lengths, margin, where) => {
        const sound = recording(...lengths);
        const parts = partsOf(sound, { ...RULES, margin });
        parts.forEach(({ start, end }, i) => {
          expect(start).toBeGreaterThanOrEqual(i > 0 ? parts[i - 1].end : 0);
          expect(end).toBeGreaterThan(start);
          expect(end).toBeLessThanOrEqual(sound.length);
        });
        const first = parts[0];
        if (!first || first.end - first.start < 2) return;
        const at = first.start + 1 + Math.floor((where / 101) * (first.end - first.start - 1));
        const split = splitPart(parts, at);
        expect(split).toHaveLength(parts.length + 1);
        expect(joinPart(split, 0)).toEqual(parts);
        expect(splitPart(parts, first.start)).toEqual(parts);
        expect(joinPart(parts, parts.length - 1)).toEqual(parts);
      },
    ),
    { numRuns: 60 },
  );
});
