import { applyChange, type Change, settingsOf, sourceOf as sourceIdOf, type WorkingJob } from '@tambur/core';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { jobOf, sourceOf } from '../fixtures/views.ts';
import { beginGesture, createJobStore, type JobStore, nameFromFile, selectedClip } from './job-store.ts';

const clipsOf = (store: JobStore) => store.getState().job.clips;
const ids = (store: JobStore) => clipsOf(store).map(({ id }) => id);
const dropped = (id: string) => ({ source: sourceOf(id), fileName: `${id}.wav` });

describe('the clip list', () => {
  test('several clips change in one step, and only they are in it', () => {
    const store = createJobStore(jobOf(['a', 'b', 'c']));
    const level = { level: { loudness: -20 } };
    store.getState().changeMany(
      new Map([
        ['a', level],
        ['c', level],
        ['nobody', level],
      ]),
    );
    const levels = clipsOf(store).map((clip) => settingsOf(clip, { wishes: {} }).level);
    expect(levels).toEqual([{ loudness: -20 }, 'automatic', { loudness: -20 }]);
    expect(store.getState().pending.map((change) => Object.keys(change))).toEqual([['clips/a', 'clips/c']]);
  });

  test('opens with its first clip on the bench', () => {
    expect(selectedClip(createJobStore(jobOf(['a', 'b'])).getState())?.id).toBe('a');
    expect(selectedClip(createJobStore(jobOf([])).getState())).toBeUndefined();
  });

  test('new sources become clips at the end, named after their files, the first of them on the bench', () => {
    const store = createJobStore(jobOf(['a']));
    store.getState().addClips([dropped('cabin_voice-2'), { ...dropped('bell'), fileName: 'winch.mp3' }]);
    expect(clipsOf(store).map(({ name }) => name)).toEqual(['a', 'Cabin voice 2', 'Winch']);
    const clip = selectedClip(store.getState());
    expect(clip && sourceIdOf(clip)).toBe('cabin_voice-2');
    expect(store.getState().sources.get('bell')?.name).toBe('bell.wav');
    store.getState().addClips([dropped('horn')], true);
    expect(clipsOf(store)).toHaveLength(4);
    expect(selectedClip(store.getState())).toBe(clip);
  });

  test.each([
    ['a', 0, ['a', 'b', 'c']],
    ['a', 1, ['b', 'a', 'c']],
    ['a', 2, ['b', 'c', 'a']],
    ['c', 0, ['c', 'a', 'b']],
    ['nobody', 0, ['a', 'b', 'c']],
  ])('moving %s to place %i changes that clip alone', (id, to, wanted) => {
    const store = createJobStore(jobOf(['a', 'b', 'c']));
    const before = ids(store);
    store.getState().moveClip(id, to);
    expect(ids(store)).toEqual(wanted);
    const isMoved = before.join() !== wanted.join();
    expect(store.getState().pending.flatMap((change) => Object.keys(change))).toEqual(isMoved ? [`clips/${id}`] : []);
  });

  test('removing the clip on the bench puts its neighbour there, and takes it from its places', () => {
    const view = jobOf(['a', 'b', 'c']);
    const store = createJobStore({ ...view, job: { ...view.job, places: { 3: 'b', 4: 'c' } } });
    store.getState().select('b');
    store.getState().removeClip('b');
    expect([ids(store), selectedClip(store.getState())?.id]).toEqual([['a', 'c'], 'c']);
    expect(store.getState().job.places).toEqual({ 4: 'c' });
    store.getState().removeClip('c');
    expect(selectedClip(store.getState())?.id).toBe('a');
    store.getState().removeClip('a');
    expect(selectedClip(store.getState())).toBeUndefined();
  });
});

describe('changes', () => {
  test('whatever is done here, the changes of it do the same elsewhere', () => {
    type Step = (store: JobStore, pick: number) => void;
    const steps: Step[] = [
      (store) => store.getState().addClips([dropped('x')]),
      (store, pick) => store.getState().removeClip(ids(store)[pick % Math.max(1, ids(store).length)] ?? ''),
      (store, pick) => store.getState().moveClip(ids(store)[0] ?? '', pick % 3),
      (store, pick) => store.getState().changeSettings(ids(store)[0] ?? '', { name: `n${pick}` }),
      (store, pick) =>
        store.getState().changeSettings(ids(store)[0] ?? '', { cut: pick ? { start: pick } : 'automatic' }),
      (store, pick) => store.getState().setVariant(pick % 2 ? 'older-sets' : null),
      (store, pick) => store.getState().rename(`Job ${pick}`),
    ];
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(steps.length - 1), fc.nat(20)), { maxLength: 25 }), (done) => {
        const view = jobOf(['a', 'b', 'c']);
        const store = createJobStore(view);
        for (const [which, pick] of done) steps[which]?.(store, pick);
        const { pending, job } = store.getState();
        const elsewhere = pending.reduce<WorkingJob>(applyChange, view.job);
        expect(JSON.parse(JSON.stringify(elsewhere))).toEqual(JSON.parse(JSON.stringify(job)));
      }),
      { numRuns: 100 },
    );
  });

  test('choosing another clip is none', () => {
    const store = createJobStore(jobOf(['a', 'b']));
    store.getState().select('b');
    expect(store.getState().pending).toEqual([]);
  });

  test('of a gesture the last one counts; all others are steps of their own', () => {
    const store = createJobStore(jobOf(['a', 'b']));
    store.getState().changeSettings('a', { cut: { start: 0, end: 100 } });
    const end = beginGesture(store);
    for (const start of [1, 2, 3]) store.getState().changeSettings('a', { cut: { start, end: 100 } });
    end();
    for (const name of ['A', 'AA']) store.getState().changeSettings('a', { name });
    const names = store.getState().pending.map((change: Change) => Object.keys(change).join());
    expect(names).toEqual(['clips/a', 'clips/a', 'clips/a', 'clips/a']);
    expect(settingsOf(clipsOf(store)[0]!, { wishes: {} })).toMatchObject({ name: 'AA', cut: { start: 3, end: 100 } });
  });
});

test.each([
  ['doors-closing.flac', 'Doors closing'],
  ['A.B.c.mp3', 'A.B.c'],
  ['.hidden', 'Clip'],
  ['--.wav', 'Clip'],
  [`${'x'.repeat(300)}.wav`, `X${'x'.repeat(119)}`],
])('the clip of %s is called %s', (file, name) => expect(nameFromFile(file)).toBe(name));
