import { describe, expect, test } from 'vitest';
import { formerSheets } from '../targets/former/list.ts';
import { askedBy, editionsOf, type Target, targetOf, targets, withVariant } from '../targets/index.ts';
import { changeToEdition, movedOn, newerEdition, whatChanges } from './edition.ts';

const asked = (sheet: Target, variant: string | null) => askedBy(withVariant(sheet, variant));

describe('a job that exists', () => {
  test.each(
    formerSheets.flatMap((sheet) =>
      [null, ...sheet.variants.map(({ id }) => id)].map((variant) => ({ sheet, variant })),
    ),
  )('for $sheet.id, edition $sheet.edition, variant $variant, keeps what it asked', ({ sheet, variant }) => {
    const moved = movedOn({ sheet: sheet.id, variant });
    const now = targetOf(sheet.id, moved.edition);
    expect(asked(now, moved.variant)).toEqual(asked(sheet, variant));
    // It is told of the newest edition, or it is there.
    const present = targetOf(sheet.id);
    expect(newerEdition(moved)).toBe(now === present ? null : present);
    expect(newerEdition({ ...moved, offered: present.edition })).toBeNull();
    if (now === present) return;
    const change = changeToEdition({ variant: moved.variant, values: {} }, present);
    const taken = { ...moved, ...change } as typeof moved;
    expect(newerEdition(taken)).toBeNull();
    const lines = whatChanges(withVariant(now, moved.variant), withVariant(present, taken.variant));
    expect(lines.length).toBeGreaterThan(0);
    for (const line of lines) expect(line).toMatch(/^[A-Z].+[^.]\.$/);
  });

  test('says its edition once it has one, and stays there', () => {
    for (const { id, edition } of targets) {
      expect(movedOn({ sheet: id, variant: null, edition })).toEqual({ sheet: id, variant: null, edition });
    }
    expect(movedOn({ sheet: 'my-own', variant: 'v' })).toEqual({ sheet: 'my-own', variant: 'v' });
    // A variant that no edition has is refused as one of the present edition.
    expect(movedOn({ sheet: 'loop-player', variant: 'x' })).toEqual({
      sheet: 'loop-player',
      variant: 'x',
      edition: targetOf('loop-player').edition,
    });
  });
});

test('editions are kept in their order, and one that is not here yet is refused', () => {
  for (const { id, edition } of targets) {
    const numbers = editionsOf(id).map((sheet) => sheet.edition);
    expect(numbers).toEqual([...new Set(numbers)].sort((a, b) => a - b));
    expect(targetOf(id, 1)).toBe(editionsOf(id)[0]);
    expect(() => targetOf(id, edition + 1)).toThrow(/use a newer Tambur, or name that one/);
  }
});
