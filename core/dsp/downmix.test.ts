import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { mix, surroundMix } from './downmix.ts';

describe('five channels and six by ITU-R BS.775-3, table 2 (from memory)', () => {
  // Shares relative to the largest, as the table gives them: left and right 1, centre and surrounds 0.7071.
  const third = 7071 / 10_000;
  const table = [
    ['to stereo', 2, [1, 0, third, third, 0], [0, 1, third, 0, third]],
    ['to mono', 1, [third, third, 1, 0.5, 0.5], null],
  ] as const;
  test.each(table)('%s', (_, outputs, first, second) => {
    const rows = surroundMix(5, ['L', 'R', 'C', 'Ls', 'Rs'], outputs) ?? [];
    const largest = Math.max(...rows.flat());
    [first, ...(second ? [second] : [])].forEach((shares, row) => {
      shares.forEach((share, channel) => {
        expect(rows[row][channel] / largest).toBeCloseTo(share, 4);
      });
    });
    // With a sixth channel for low frequencies, wherever it stands, it is left out and the rest stays.
    const six = surroundMix(6, ['L', 'R', 'C', 'LFE', 'Ls', 'Rs'], outputs) ?? [];
    expect(six.map((row) => row.filter((_share, channel) => channel !== 3))).toEqual(rows);
    expect(six.map((row) => row[3])).toEqual(rows.map(() => 0));
  });
});

test('nothing that stays within full scale leaves it, whatever the speakers', () => {
  const speakers = fc.constantFrom('L', 'R', 'C', 'LFE', 'Ls', 'Rs', 'Lb', 'Rb', 'Lc', 'Rc', 'Cs', 'S');
  fc.assert(
    fc.property(
      fc.array(speakers, { minLength: 3, maxLength: 8 }),
      fc.constantFrom(1 as const, 2 as const),
      (layout, outputs) => {
        const matrix = surroundMix(layout.length, layout, outputs);
        if (!matrix) return;
        const loudest = mix(
          layout.map(() => Float32Array.of(1, -1)),
          matrix,
        );
        for (const channel of loudest)
          for (const value of channel) expect(Math.abs(value)).toBeLessThanOrEqual(1 + 1e-6);
      },
    ),
  );
});

test.each([
  [3, null, 2, true],
  [6, null, 1, true],
  [6, ['L', 'R'], 1, true],
  [12, null, 2, false],
  [3, ['LFE', 'LFE', 'LFE'], 1, false],
] as const)('%i channels, named %j, to %i: %s', (inputs, layout, outputs, isKnown) => {
  expect(surroundMix(inputs, layout, outputs) !== null).toBe(isKnown);
});
