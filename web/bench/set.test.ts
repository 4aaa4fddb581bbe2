import { automaticSettings, targetOf, withVariant } from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { sourceOf } from '../fixtures/views.ts';
import { settleSet } from './set.ts';

const phone = withVariant(targetOf('desk-phone-ring-tone'), 'older-sets');
const board = targetOf('microcontroller-8-bit-dac');
const clip = (id: string, sourceId: string, more = {}) => ({
  id,
  sourceId,
  settings: { ...automaticSettings('Bell'), ...more },
});
const sources = new Map([sourceOf('one', 1), sourceOf('four', 4)].map((source) => [source.id, source]));

describe('the set, before anything is rendered', () => {
  test('names stay apart, seconds and bytes add up, the budget is known', () => {
    const set = settleSet([clip('a', 'one'), clip('b', 'one')], sources, board);
    const names = [...set.settled.values()].map((clip) => 'chain' in clip && clip.chain.fileName);
    expect(names).toEqual(['bell.h', 'bell_2.h']);
    expect([...set.seconds.values()]).toEqual([1, 1]);
    expect([set.soundBytes, set.mostBytes]).toEqual([32_000, 65_536]);
    expect(set.findings.map(({ verdict }) => verdict)).toEqual(['meets']);
  });

  test('a set that is too large breaks the sheet', () => {
    const set = settleSet([clip('a', 'one'), clip('b', 'four')], sources, board);
    expect(set.findings).toMatchObject([{ verdict: 'breaks', mend: expect.stringContaining('14\u202f464 bytes') }]);
    expect(set.troubles.size).toBe(0);
  });

  test('a clip in trouble is named with one sentence, whether by the sheet or by a setting', () => {
    const backwards = { cut: { start: 500, end: 100 } };
    const set = settleSet([clip('a', 'one'), clip('b', 'four'), clip('c', 'one', backwards)], sources, phone);
    expect([...set.troubles.keys()]).toEqual(['b', 'c']);
    expect(set.troubles.get('b')).toMatch(/^It is 1\.990 s too long/);
    expect(set.troubles.get('c')).toMatch(/^The cut ends at/);
    expect(set.mostBytes).toBeNull();
  });

  test('a clip whose source is not there yet counts nothing', () => {
    expect(settleSet([clip('a', 'nowhere')], sources, board)).toMatchObject({ soundBytes: 0 });
  });
});
