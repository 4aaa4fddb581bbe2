import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { clicked, nothingSelected, pruned, type Selection } from './selection.ts';

describe('selecting', () => {
  const order = ['a', 'b', 'c', 'd', 'e'];
  const after = (...clicks: readonly (readonly [id: string, keys?: 'shift' | 'ctrl' | 'both'])[]) =>
    clicks.reduce<Selection>(
      (selection, [id, keys]) =>
        clicked(selection, order, id, {
          shift: keys === 'shift' || keys === 'both',
          ctrl: keys === 'ctrl' || keys === 'both',
        }),
      nothingSelected,
    );
  const selected = (selection: Selection) => order.filter((id) => selection.ids.has(id)).join('');

  test.each([
    ['one', after(['b']), 'b'],
    ['another instead', after(['b'], ['d']), 'd'],
    ['two with Ctrl', after(['b'], ['d', 'ctrl']), 'bd'],
    ['and one away again', after(['b'], ['d', 'ctrl'], ['b', 'ctrl']), 'd'],
    ['a range with Shift', after(['b'], ['d', 'shift']), 'bcd'],
    ['a range upwards', after(['d'], ['a', 'shift']), 'abcd'],
    ['the range turns round its first click', after(['c'], ['e', 'shift'], ['a', 'shift']), 'abc'],
    ['a range beside others', after(['a'], ['c', 'ctrl'], ['e', 'both']), 'acde'],
    ['Shift without a first click', after(['c', 'shift']), 'c'],
  ])('%s', (_, selection, wanted) => expect(selected(selection)).toBe(wanted));

  test('what is no longer there is not selected; nothing else changes', () => {
    fc.assert(
      fc.property(fc.subarray(order), fc.subarray(order), (ids, left) => {
        const result = pruned({ ids: new Set(ids), anchor: null }, left);
        expect([...result.ids].sort()).toEqual(ids.filter((id) => left.includes(id)).sort());
      }),
    );
  });
});
