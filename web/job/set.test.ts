import { newClip, type Target, targetOf, type Wish, withVariant } from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { sourceOf } from '../fixtures/views.ts';
import { settleSet } from './set.ts';

const phone = withVariant(targetOf('desk-phone-ring-tone'), 'older-sets');
const board = targetOf('microcontroller-8-bit-dac');
const clip = (id: string, sourceId: string, cut?: Wish<'cut'>) => ({ ...newClip(id, 'Bell', sourceId, cut), rank: id });
const settled = (clips: readonly ReturnType<typeof clip>[], target: Target, wishes = {}) =>
  settleSet({ clips, wishes, places: {} }, sources, target);
const sources = new Map([sourceOf('one', 1), sourceOf('four', 4)].map((source) => [source.id, source]));

describe('the set, before anything is rendered', () => {
  test('names stay apart, seconds and bytes add up, the budget is known', () => {
    const set = settled([clip('a', 'one'), clip('b', 'one')], board);
    const names = [...set.settled.values()].map((clip) => 'chain' in clip && clip.chain.fileName);
    expect(names).toEqual(['bell.h', 'bell_2.h']);
    expect([...set.seconds.values()]).toEqual([1, 1]);
    expect([set.soundBytes, set.mostBytes]).toEqual([32_000, 65_536]);
    expect(set.findings.map(({ verdict }) => verdict)).toEqual(['meets']);
  });

  test('a set that is too large breaks the sheet', () => {
    const set = settled([clip('a', 'one'), clip('b', 'four')], board);
    expect(set.findings).toMatchObject([{ verdict: 'breaks', mend: expect.stringContaining('14\u202f464 bytes') }]);
    expect(set.troubles.size).toBe(0);
  });

  test('a clip in trouble is named with one sentence, whether by the sheet or by a setting', () => {
    const backwards = { start: 500, end: 100 };
    const set = settled([clip('a', 'one'), clip('b', 'four'), clip('c', 'one', backwards)], phone);
    expect([...set.troubles.keys()]).toEqual(['b', 'c']);
    expect(set.troubles.get('b')).toMatch(/^It is 1\.990 s too long/);
    expect(set.troubles.get('c')).toMatch(/^The cut ends at/);
    expect(set.mostBytes).toBeNull();
  });

  test('what is wished for all clips counts for each, and what fills a blank for its own', () => {
    const set = settled([clip('a', 'one')], board, { rate: { sampleRate: 8000 } });
    expect(set.soundBytes).toBe(8000);
    const blank = {
      id: 'rate',
      question: 'Rate?',
      level: 'clip' as const,
      usual: 8000,
      at: [{ key: 'plays-at', pointer: '' }],
    };
    const asking = { ...board, blanks: [blank] };
    expect(settled([clip('b', 'one')], asking).soundBytes).toBe(8000);
    expect(settled([{ ...clip('c', 'one'), values: { rate: 11_025 } }], asking).soundBytes).toBe(11_025);
  });

  test('a clip whose source is not there yet counts nothing', () => {
    expect(settled([clip('a', 'nowhere')], board)).toMatchObject({ soundBytes: 0 });
  });
});
