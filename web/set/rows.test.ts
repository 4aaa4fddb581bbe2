import { newClip, type Places, slotTableCsv, type Target, targetOf, type Wish } from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { sourceOf } from '../fixtures/views.ts';
import { settleSet } from '../job/set.ts';
import { fileAt, setRows, slotLines, tagChanges, whyNoTags } from './rows.ts';

const sources = new Map([sourceOf('one', 1), sourceOf('two', 2)].map((source) => [source.id, source]));
const clip = (id: string, name: string, source: string, cut?: Wish<'cut'>) => ({
  ...newClip(id, name, source, cut),
  rank: id,
});
const bell = clip('a', 'Bell', 'one');
const winch = clip('b', 'Winch', 'two');
const backwards = clip('c', 'Backwards', 'one', { start: 500, end: 100 });

function tableOf(target: Target, clips = [bell, winch], places: Readonly<Record<string, string>> = {}) {
  const set = settleSet({ clips, wishes: {}, places }, sources, target);
  return { set, rows: setRows(clips, set, target) };
}

const module = targetOf('numbered-sound-module');
const labelled: Places = { words: ['button'], first: 0, count: 4, labels: { '2': 'horn' } };

describe('lines of a set', () => {
  test('are the places of the device, those that are free too, with their names', () => {
    const { rows } = tableOf({ ...module, places: labelled }, [bell, winch], { 2: 'a', 3: 'a', 1: 'b' });
    expect(rows.map(({ number, label, clip: there }) => [number, label, there?.name ?? null])).toEqual([
      [0, null, null],
      [1, null, 'Winch'],
      [2, 'horn', 'Bell'],
      [3, null, 'Bell'],
    ]);
    expect(rows.map(({ isOneOfSeveral }) => isOneOfSeveral)).toEqual([false, false, true, true]);
  });

  test('are the clips in their order where the device has no places', () => {
    const { rows } = tableOf(targetOf('archive-copy'));
    expect(rows.map(({ number, words, clip: there }) => [number, words, there?.name])).toEqual([
      [1, null, 'Bell'],
      [2, null, 'Winch'],
    ]);
  });

  test('say what each file is called: at several places each has its own', () => {
    const { rows, set } = tableOf(module, [bell, winch], { 2: 'a', 5: 'a', 1: 'b' });
    const named = rows.filter(({ clip: there }) => there).map((row) => [row.number, fileAt(row, set)]);
    expect(named).toEqual([
      [1, '0001.wav'],
      [2, '0002.wav'],
      [5, '0005.wav'],
    ]);
  });

  test('are a table without the clips that cannot be made', () => {
    const target = targetOf('archive-copy');
    const { rows, set } = tableOf(target, [bell, backwards]);
    expect(rows).toHaveLength(2);
    expect(fileAt(rows[1] ?? rows[0], set)).toBeNull();
    const lines = slotLines(rows, set);
    expect(lines).toMatchObject([{ number: 1, sound: 'Bell', seconds: 1 }]);
    expect(slotTableCsv(target, lines).trim().split(/\r?\n/)).toHaveLength(2);
  });
});

describe('tags written by hand', () => {
  test('change one tag, keep the others as they are now, and leave alone what cannot be made', () => {
    const target = targetOf('portable-player');
    expect(whyNoTags(target)).toBeNull();
    const { set } = tableOf(target, [bell, backwards]);
    const changes = tagChanges([bell, backwards], set, { wishes: {} }, 'artist', 'The ropeway');
    expect([...changes.keys()]).toEqual(['a']);
    expect(changes.get('a')?.wrap).toMatchObject({
      tags: { artist: 'The ropeway', title: '', album: '', comment: '' },
    });
  });

  test('are refused in a sentence where the sheet or the container has no room for them', () => {
    expect(whyNoTags(module)).toBe('The sheet forbids tags.');
    expect(
      whyNoTags({
        ...module,
        player: {},
        requirements: [{ key: 'container', kind: 'container', anyOf: ['headerless'] }],
      }),
    ).toBe('A file of this kind (headerless) has no place for tags.');
  });
});
