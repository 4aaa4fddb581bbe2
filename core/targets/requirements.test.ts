import { describe, expect, test } from 'vitest';
import { factsFor, sources } from '../chain/fixtures/sources.ts';
import { automaticSettings, type ClipSettings, parseSettings, settle } from '../chain/index.ts';
import { checkFile } from '../findings/index.ts';
import { type Requirement, requirementText, type Target, targetOf } from './index.ts';

const sheet = (...requirements: Requirement[]): Target => ({
  ...targetOf('telephone-system-message'),
  player: {},
  requirements,
});
const facts = { ...factsFor(sources.quiet), sampleRate: 8000 };

const verdictOf = (requirement: Requirement, change: Partial<typeof facts>, fileName = 'bell.wav') => {
  const [finding] = checkFile(sheet(requirement), { ...facts, ...change }, fileName);
  return [finding.verdict, finding.mend];
};

describe('requirements held against files', () => {
  test.each<[Requirement, Partial<typeof facts>, string, string, string]>([
    [{ key: 'duration', kind: 'duration', most: 4 }, { frames: 32_000 }, 'bell.wav', 'meets', ''],
    [{ key: 'duration', kind: 'duration', most: 4 }, { frames: 36_000 }, 'bell.wav', 'breaks', 'cut 0.500 s'],
    [
      { key: 'duration', kind: 'duration', most: 3, advised: true },
      { frames: 32_000 },
      'bell.wav',
      'advises',
      'cut 1.000 s',
    ],
    [{ key: 'duration', kind: 'duration', least: 2 }, { frames: 8000 }, 'bell.wav', 'breaks', 'add 1.000 s of silence'],
    [{ key: 'file-size', kind: 'file-size', most: 56_000 }, { bytes: 56_000 }, 'bell.wav', 'meets', ''],
    [
      { key: 'file-size', kind: 'file-size', most: 56_000 },
      { bytes: 56_001 },
      'bell.wav',
      'breaks',
      'save 1 bytes: cut it shorter or lower its rate',
    ],
    // Common practice, no source: two bars of four beats at 120 a minute last 4 s.
    [
      { key: 'bars', kind: 'bars', anyOf: [1, 2, 4], beats: 4, tempo: 120 },
      { frames: 32_000 },
      'bell.wav',
      'meets',
      '',
    ],
    [
      { key: 'bars', kind: 'bars', anyOf: [1, 2, 4], beats: 4, tempo: 120 },
      { frames: 31_999 },
      'bell.wav',
      'breaks',
      'make it 4.000 s, 32\u202f000 frames',
    ],
    [{ key: 'name', kind: 'name', mostWithExtension: 10 }, {}, 'closed.wav', 'meets', ''],
    [{ key: 'name', kind: 'name', mostWithExtension: 10 }, {}, 'closing.wav', 'breaks', 'shorten it by 1'],
    [{ key: 'name', kind: 'name', most: 4 }, {}, 'bells.wav', 'breaks', 'shorten it by 1'],
    [
      { key: 'name', kind: 'name', plain: true, notDigitsOnly: true },
      {},
      'old bell.wav',
      'breaks',
      'use only letters, digits, hyphen and underscore',
    ],
    [{ key: 'name', kind: 'name', notDigitsOnly: true }, {}, '0042.wav', 'breaks', 'put a letter into it'],
  ])('%j and %j, %s: %s', (requirement, change, fileName, verdict, mend) => {
    expect(verdictOf(requirement, change, fileName)).toEqual([verdict, mend]);
  });

  test.each<[Requirement, string]>([
    [{ key: 'duration', kind: 'duration', least: 1, most: 4 }, 'duration: at least 1.000 s, at most 4.000 s'],
    [{ key: 'file-size', kind: 'file-size', most: 56_000 }, 'file size: at most 56\u202f000 bytes'],
    [
      { key: 'bars', kind: 'bars', anyOf: [1, 2], beats: 3, tempo: 90 },
      'bars: exactly 1 or 2 bars of 3 beats at 90 a minute',
    ],
    [
      { key: 'name', kind: 'name', plain: true, most: 8, notDigitsOnly: true },
      'name: letters, digits, hyphen, underscore, at most 8 characters, not digits only',
    ],
  ])('%j in words', (requirement, words) => expect(requirementText(requirement)).toBe(words));
});

describe('lengths that sheets want', () => {
  const settled = (target: Target, change: Partial<ClipSettings> = {}) =>
    settle({
      facts: factsFor(sources.long),
      settings: parseSettings({ ...automaticSettings('x'), ...change }),
      target,
    });

  // 56 000 bytes less a header of 44 are 27 978 frames of 2 bytes: 3.497 s. The 4 s do not bind.
  test('of two limits the one that binds is named, with what it comes to', () => {
    const { obstacles, stations } = settled(targetOf('two-way-radio-prompt'));
    expect(obstacles[0].text).toBe('It is 16.503 s too long: the sheet allows 56\u202f000 bytes, in effect 3.497 s.');
    expect(stations.ends.plan.limit?.frames).toBe(27_978);
    const [way] = obstacles[0].ways;
    const after = settled(targetOf('two-way-radio-prompt'), { [way.station]: way.wish });
    expect(after.obstacles).toEqual([]);
    expect(after.stations.ends.plan.frames).toBe(27_978);
  });

  test('what is only advised settles nothing', () => {
    const advised = sheet({ key: 'duration', kind: 'duration', most: 3, advised: true });
    expect(settled(advised).obstacles).toEqual([]);
  });

  test.each([
    [{ start: 0, end: 90_000 }, '1', 88_200],
    [{ start: 0, end: 150_000 }, '2', 176_400],
    [{ start: 0, end: 882_000 }, '4', 352_800],
  ])('a cut of %j gets the nearest number of bars: %s', (cut, count, frames) => {
    const { ends } = settled(targetOf('loop-player'), { cut }).stations;
    expect(ends.plan.frames).toBe(frames);
    expect(ends.why).toContain(`Nearest: ${count}.`);
  });

  test('too short a sound is padded to the least duration', () => {
    const target = sheet({ key: 'duration', kind: 'duration', least: 25 });
    expect(settled(target).stations.ends.plan.frames).toBe(25 * 44_100);
  });

  test('the size of a text file depends on its samples and limits no length', () => {
    const target = sheet(
      { key: 'container', kind: 'container', anyOf: ['c-header'] },
      { key: 'encoding', kind: 'encoding', anyOf: ['pcm-u8'] },
      { key: 'file-size', kind: 'file-size', most: 100 },
    );
    expect(settled(target).stations.ends.plan.limit).toBeNull();
  });
});
