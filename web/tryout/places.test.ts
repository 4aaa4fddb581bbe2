import { targetOf } from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { filesAtPlaces, languagesOf, placeTitle } from './places.ts';

test('a place is called as the device calls it', () => {
  expect(placeTitle({ words: ['pad', 'zone'], first: 1, labels: {} }, 3)).toBe('Pad 3');
  expect(placeTitle(undefined, 3)).toBe('Place 3');
});

describe('which file is at which place', () => {
  const at = (...args: Parameters<typeof filesAtPlaces>) => [...filesAtPlaces(...args)];

  test('where nobody has put anything they follow each other', () => {
    expect(at(4, ['a', 'b'], undefined, new Map())).toEqual([
      [4, 'a'],
      [5, 'b'],
    ]);
    expect(at(1, ['a'], new Map(), new Map())).toEqual([[1, 'a']]);
  });

  test('a job says where they are, but for those that the device does not show', () => {
    const inJob = new Map([
      [7, 'b'],
      [2, 'gone'],
    ]);
    expect(at(1, ['a', 'b'], inJob, new Map())).toEqual([[7, 'b']]);
  });

  test('what is put somewhere since then counts, and what is taken away', () => {
    const assigned = new Map<number, string | null>([
      [1, null],
      [9, 'a'],
    ]);
    expect(at(1, ['a', 'b'], undefined, assigned)).toEqual([
      [2, 'b'],
      [9, 'a'],
    ]);
  });
});

test('languages are the folders beside the one that the device looks in', () => {
  const { player } = targetOf('console-sound-slot');
  const looking = { player: { ...player, 'looks-in': { path: 'sounds/en' } } };
  const paths = ['sounds/de/a.wav', 'sounds/en/a.wav', 'sounds/de/b.wav', 'other/fr/a.wav', 'top.wav'];
  expect(languagesOf(looking, paths)).toEqual(['sounds/en', 'sounds/de']);
  const { 'looks-in': _, ...anywhere } = player;
  expect(languagesOf({ player: anywhere }, paths)).toEqual([]);
});
