import { expect, test } from 'vitest';
import type { Change, WorkingJob } from './changes.ts';
import { inverseOf } from './fixtures/inverse.ts';
import { EMPTY_JOB, newClip, settingsOf, withoutWish, withSettings } from './job.ts';
import { wordsOfChange } from './words.ts';

const clip = (n: number, name: string) => ({
  ...newClip(`00000000-0000-4000-8000-00000000000${n}`, name, 's'),
  rank: `a${n}`,
});
const [bell, winch] = [clip(1, 'Bell'), clip(2, 'Winch')];
const job: WorkingJob = { ...EMPTY_JOB, title: 'Doors', sheet: 'desk', variant: null, clips: [bell, winch] };
const at = (entry: typeof bell, change: object = {}) => ({ [`clips/${entry.id}`]: { ...entry, ...change } });
const gone = (entry: typeof bell) => ({ [`clips/${entry.id}`]: null });

test.each<[Change, string]>([
  [at(bell, { name: 'Gong' }), 'Gong: renamed from Bell'],
  [at(bell, { pieces: [{ source: 's', cut: { start: 5 }, gapMs: 0 }] }), 'Bell: cut'],
  [at(bell, { pieces: [{ source: 'other', gapMs: 0 }] }), 'Bell: another sound'],
  [at(bell, { wishes: { level: { peakDb: -3 }, ends: { frames: 9 } } }), 'Bell: level, ends'],
  [at(bell, { rank: 'a9' }), 'Bell: moved'],
  [at(bell, { tags: { artist: 'x' }, values: { slot: 4 } }), 'Bell: tags, values'],
  [gone(bell), 'Bell: removed'],
  [{ ...gone(bell), ...gone(winch) }, '2 clips: removed'],
  [at(clip(3, 'Door')), 'Door: added'],
  [
    { ...at(bell, { wishes: { rate: { sampleRate: 8000 } } }), ...at(winch, { name: 'W' }) },
    'Bell: rate; W: renamed from Winch',
  ],
  [{ title: 'Gates' }, 'title: Gates'],
  [{ variant: 'older' }, 'another variant'],
  [{ 'wishes/level': { peakDb: -3 }, ...at(bell) }, 'level of all clips'],
  [{ 'values/tempo': 93 }, 'tempo: 93'],
  [{ 'values/tempo': null }, 'tempo: as the sheet has it'],
  [{ 'places/3': bell.id }, 'place 3'],
  [{ 'ownLists/index': 'f'.repeat(64) }, 'list file index'],
  [at(bell), 'nothing'],
])('%j is "%s"', (change, words) => {
  expect(wordsOfChange(change, inverseOf(job, change))).toBe(words);
});

test('a wish of all clips counts where a clip has none; a clip can have another, none, or go by the job again', () => {
  const forAll = { level: { peakDb: -3 } } as const;
  const level = (entry: Parameters<typeof settingsOf>[0]) => settingsOf(entry, { wishes: forAll }).level;
  expect(level(bell)).toEqual({ peakDb: -3 });
  const own = withSettings(bell, { level: { loudness: -16 } }, forAll);
  expect(level(own)).toEqual({ loudness: -16 });
  const none = withSettings(own, { level: 'automatic' }, forAll);
  expect([level(none), none.wishes]).toEqual(['automatic', { level: 'automatic' }]);
  expect(withSettings(own, { level: 'automatic' }).wishes).toEqual({});
  expect(level(withoutWish(none, 'level'))).toEqual({ peakDb: -3 });
});
