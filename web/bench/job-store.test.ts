import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { jobOf, sourceOf } from '../fixtures/views.ts';
import { beginGesture, createJobStore, type JobStore, nameFromFile, selectedClip } from './job-store.ts';

const ids = (store: JobStore) => store.getState().clips.map(({ id }) => id);
const dropped = (id: string) => ({ source: sourceOf(id), fileName: `${id}.wav` });
const undo = (store: JobStore) => store.temporal.getState().undo();
const redo = (store: JobStore) => store.temporal.getState().redo();

describe('the clip list', () => {
  test('several clips change in one step, and come back in one', () => {
    const store = createJobStore(jobOf(['a', 'b', 'c']));
    const before = store.getState().clips;
    store.getState().changeMany(
      new Map([
        ['a', { level: { loudness: -20 } }],
        ['c', { level: { loudness: -20 } }],
        ['nobody', { level: { loudness: -20 } }],
      ]),
    );
    expect(store.getState().clips.map(({ settings }) => settings.level)).toEqual([
      { loudness: -20 },
      'automatic',
      { loudness: -20 },
    ]);
    undo(store);
    expect(store.getState().clips).toEqual(before);
    redo(store);
    expect(store.getState().clips[2]?.settings.level).toEqual({ loudness: -20 });
  });

  test('opens with its first clip on the bench', () => {
    expect(selectedClip(createJobStore(jobOf(['a', 'b'])).getState())?.id).toBe('a');
    expect(selectedClip(createJobStore(jobOf([])).getState())).toBeUndefined();
  });

  test('new sources become clips at the end, named after their files, the first of them on the bench', () => {
    const store = createJobStore(jobOf(['a']));
    store.getState().addClips([dropped('cabin_voice-2'), { ...dropped('bell'), fileName: 'winch.mp3' }]);
    expect(store.getState().clips.map(({ settings }) => settings.name)).toEqual(['a', 'Cabin voice 2', 'Winch']);
    expect(selectedClip(store.getState())?.sourceId).toBe('cabin_voice-2');
    expect(store.getState().sources.get('bell')?.name).toBe('bell.wav');
  });

  test.each([
    ['a', 0, ['a', 'b', 'c']],
    ['a', 1, ['b', 'a', 'c']],
    ['a', 2, ['b', 'c', 'a']],
    ['c', 0, ['c', 'a', 'b']],
    ['nobody', 0, ['a', 'b', 'c']],
  ])('moving %s to place %i', (id, to, wanted) => {
    const store = createJobStore(jobOf(['a', 'b', 'c']));
    store.getState().moveClip(id, to);
    expect(ids(store)).toEqual(wanted);
  });

  test('removing the clip on the bench puts its neighbour there', () => {
    const store = createJobStore(jobOf(['a', 'b', 'c']));
    store.getState().select('b');
    store.getState().removeClip('b');
    expect([ids(store), selectedClip(store.getState())?.id]).toEqual([['a', 'c'], 'c']);
    store.getState().removeClip('c');
    expect(selectedClip(store.getState())?.id).toBe('a');
    store.getState().removeClip('a');
    expect(selectedClip(store.getState())).toBeUndefined();
  });
});

describe('undo', () => {
  test('every change can be taken back and done again, in order', () => {
    type Change = (store: JobStore, pick: number) => void;
    const changes: Change[] = [
      (store) => store.getState().addClips([dropped('x')]),
      (store, pick) => store.getState().removeClip(ids(store)[pick % Math.max(1, ids(store).length)] ?? ''),
      (store, pick) => store.getState().moveClip(ids(store)[0] ?? '', pick % 3),
      (store, pick) => store.getState().changeSettings(ids(store)[0] ?? '', { name: `n${pick}` }),
    ];
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(3), fc.nat(20)), { maxLength: 15 }), (steps) => {
        const store = createJobStore(jobOf(['a', 'b', 'c']));
        const seen = [store.getState().clips];
        for (const [which, pick] of steps) {
          changes[which]?.(store, pick);
          if (store.getState().clips !== seen.at(-1)) seen.push(store.getState().clips);
        }
        for (let i = seen.length - 2; i >= 0; i--) {
          undo(store);
          expect(store.getState().clips).toBe(seen[i]);
        }
        for (let i = 1; i < seen.length; i++) {
          redo(store);
          expect(store.getState().clips).toBe(seen[i]);
        }
      }),
      { numRuns: 60 },
    );
  });

  test('choosing another clip is no step', () => {
    const store = createJobStore(jobOf(['a', 'b']));
    store.getState().select('b');
    expect(store.temporal.getState().pastStates).toHaveLength(0);
  });

  test('a gesture of many changes is one step; one without a change is none', () => {
    const store = createJobStore(jobOf(['a']));
    const end = beginGesture(store);
    for (const start of [1, 2, 3]) store.getState().changeSettings('a', { cut: { start, end: 100 } });
    end();
    expect(store.getState().clips[0]?.settings.cut).toEqual({ start: 3, end: 100 });
    expect(store.temporal.getState().pastStates).toHaveLength(1);
    undo(store);
    expect(store.getState().clips[0]?.settings.cut).toBe('automatic');
    beginGesture(store)();
    expect(store.temporal.getState().pastStates).toHaveLength(0);
  });
});

test.each([
  ['doors-closing.flac', 'Doors closing'],
  ['A.B.c.mp3', 'A.B.c'],
  ['.hidden', 'Clip'],
  ['--.wav', 'Clip'],
  [`${'x'.repeat(300)}.wav`, `X${'x'.repeat(119)}`],
])('the clip of %s is called %s', (file, name) => expect(nameFromFile(file)).toBe(name));
