import type { ShelfView } from '@tambur/server';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { factsOf, sourceOf } from '../fixtures/views.ts';
import { filterShelf, kindOf } from './filter.ts';
import { clicked, nothingSelected, pruned, type Selection } from './selection.ts';

const view = (name: string, change: object = {}, usedBy: ShelfView['usedBy'] = []): ShelfView => ({
  ...sourceOf(name, 1),
  name,
  createdAt: '2026-01-01T00:00:00Z',
  waveform: '',
  usedBy,
  facts: { ...factsOf(1), ...change },
});

const bell = view('bell.wav');
const tune = view('tune.mp3', {
  container: 'mp3',
  encoding: 'mp3',
  bitDepth: null,
  tags: [{ name: 'artist', value: 'Hill Band' }],
});
const film = view('film.mkv', { container: 'matroska', encoding: 'flac' }, [
  { jobId: 'j', title: 'Ticket hut', clips: 1 },
]);
const bare = view('x.raw', { container: 'headerless', encoding: 'mu-law', certainty: 'assumed' });
const wrong = view('named.mp3');
const all = [bell, tune, film, bare, wrong];
const names = (sources: readonly ShelfView[]) => sources.map(({ name }) => name);

test('files are told apart by what is in them', () => {
  expect(all.map(({ facts }) => kindOf(facts))).toEqual(['plain', 'lossy', 'video', 'bare', 'plain']);
});

test.each([
  ['', 'all', ['bell.wav', 'tune.mp3', 'film.mkv', 'x.raw', 'named.mp3']],
  ['hill', 'all', ['tune.mp3']],
  ['44100 bell', 'all', ['bell.wav']],
  ['mu-law', 'all', ['x.raw']],
  ['ticket', 'all', ['film.mkv']],
  ['', 'video', ['film.mkv']],
  ['', 'unused', ['bell.wav', 'tune.mp3', 'x.raw', 'named.mp3']],
  ['wav', 'remarked', ['named.mp3']],
  ['no such thing', 'all', []],
] as const)('search %j among %s', (search, kind, wanted) =>
  expect(names(filterShelf(all, search, kind))).toEqual(wanted));

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
