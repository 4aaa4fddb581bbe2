import { applyChange, type Change, settingsOf, sourceOf as sourceIdOf, type WorkingJob } from '@tambur/core';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { jobOf, sourceOf } from '../fixtures/views.ts';
import { nameFromFile } from './clip-edits.ts';
import { DropOrder } from './drop-order.ts';
import { beginGesture, createJobStore, type JobStore, selectedClip } from './job-store.ts';

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
    store.getState().addClips([dropped('horn')], { isQuiet: true });
    expect(clipsOf(store)).toHaveLength(4);
    expect(selectedClip(store.getState())).toBe(clip);
  });

  test('files that come in side by side stand as they were dropped, the first of them on the bench', () => {
    const store = createJobStore(jobOf(['a']));
    const order = new DropOrder(store);
    const names = () => clipsOf(store).map(({ name }) => name);
    const add = (name: string, number: number, isFirst = false) => order.add(dropped(name), { isFirst, order: number });
    const shown = () => selectedClip(store.getState())?.name;
    add('third', 2, true);
    expect(shown()).toBe('Third');
    add('first', 0);
    add('fourth', 3);
    add('second', 1);
    expect(names().slice(1)).toEqual(['First', 'Second', 'Third', 'Fourth']);
    expect(shown()).toBe('First');
    // Later ones come behind; a clip that has been chosen stays on the bench.
    add('sixth', 5, true);
    store.getState().select('a');
    add('fifth', 4);
    expect(names().slice(-2)).toEqual(['Fifth', 'Sixth']);
    expect(selectedClip(store.getState())?.id).toBe('a');
  });

  test.each([
    ['a', 'a', false, ['a', 'b', 'c']],
    ['a', 'b', false, ['a', 'b', 'c']],
    ['a', 'b', true, ['b', 'a', 'c']],
    ['a', 'c', true, ['b', 'c', 'a']],
    ['c', 'a', false, ['c', 'a', 'b']],
    ['nobody', 'a', false, ['a', 'b', 'c']],
    ['a', 'nobody', true, ['a', 'b', 'c']],
  ])('moving %s beside %s, behind it: %s, changes that clip alone', (id, beside, isBehind, wanted) => {
    const store = createJobStore(jobOf(['a', 'b', 'c']));
    const before = ids(store);
    store.getState().moveClip(id, beside, isBehind);
    expect(ids(store)).toEqual(wanted);
    const isMoved = before.join() !== wanted.join();
    expect(store.getState().pending.flatMap((change) => Object.keys(change))).toEqual(isMoved ? [`clips/${id}`] : []);
  });

  test('removing the clip on the bench puts its neighbour there, and takes it from its places', () => {
    const view = jobOf(['a', 'b', 'c']);
    const store = createJobStore({ ...view, job: { ...view.job, places: { 3: 'b', 4: 'c' } } });
    store.getState().select('b');
    store.getState().removeClips(['b']);
    expect([ids(store), selectedClip(store.getState())?.id]).toEqual([['a', 'c'], 'c']);
    expect(store.getState().job.places).toEqual({ 4: 'c' });
    store.getState().removeClips(['c']);
    expect(selectedClip(store.getState())?.id).toBe('a');
    store.getState().removeClips(['a']);
    expect(selectedClip(store.getState())).toBeUndefined();
  });
});

describe('several clips', () => {
  const picked = (store: JobStore) => [...store.getState().selection.ids];
  const withCtrl = { shift: false, ctrl: true };

  test('are picked with the one on the bench, which is always one of them', () => {
    const store = createJobStore(jobOf(['a', 'b', 'c', 'd']));
    const { select } = store.getState();
    select('b');
    select('d', { shift: true, ctrl: false });
    expect([picked(store), selectedClip(store.getState())?.id]).toEqual([['b', 'c', 'd'], 'd']);
    select('d', withCtrl);
    expect([picked(store), selectedClip(store.getState())?.id]).toEqual([['b', 'c'], 'b']);
    for (const id of ['b', 'c']) select(id, withCtrl);
    expect([picked(store), selectedClip(store.getState())?.id]).toEqual([['c'], 'c']);
    store.getState().selectAll();
    expect(picked(store)).toEqual(['a', 'b', 'c', 'd']);
    store.getState().removeClips(['b', 'c', 'd']);
    expect([ids(store), picked(store)]).toEqual([['a'], ['a']]);
  });

  test('are moved together, one behind the other', () => {
    const store = createJobStore(jobOf(['a', 'b', 'c', 'd', 'e']));
    const { select, moveClip, movePicked } = store.getState();
    select('b');
    select('d', withCtrl);
    moveClip('d', 'e', true);
    expect(ids(store)).toEqual(['a', 'c', 'e', 'b', 'd']);
    // Beside one of their own there is no place; one that is not picked goes alone.
    moveClip('d', 'b', false);
    expect(ids(store)).toEqual(['a', 'c', 'e', 'b', 'd']);
    moveClip('c', 'b', true);
    expect(ids(store)).toEqual(['a', 'e', 'b', 'c', 'd']);
    movePicked(-1);
    expect(ids(store)).toEqual(['a', 'b', 'd', 'e', 'c']);
    for (let step = 0; step < 3; step++) movePicked(-1);
    expect(ids(store)).toEqual(['b', 'd', 'a', 'e', 'c']);
    movePicked(1);
    expect(ids(store)).toEqual(['a', 'b', 'd', 'e', 'c']);
  });

  test('are copied each behind its own, with the next free name and the same settings', () => {
    const store = createJobStore(jobOf(['a', 'b']));
    const { changeSettings, duplicateClips } = store.getState();
    changeSettings('a', { level: { peakDb: -3 }, cut: { start: 5 } });
    duplicateClips(['a', 'b']);
    duplicateClips(['a']);
    expect(clipsOf(store).map(({ name }) => name)).toEqual(['a', 'a 3', 'a 2', 'b', 'b 2']);
    const [first, ...copies] = clipsOf(store).filter(({ name }) => name.startsWith('a'));
    for (const { wishes, pieces } of copies) expect([wishes, pieces]).toEqual([first?.wishes, first?.pieces]);
    expect(new Set(ids(store)).size).toBe(5);
    expect(picked(store)).toEqual([clipsOf(store)[1]?.id]);
  });

  test.each([
    [
      {},
      400,
      [
        { start: 0, end: 400 },
        { start: 400, end: 1000 },
      ],
    ],
    [
      { start: 100, end: 900 },
      101,
      [
        { start: 100, end: 101 },
        { start: 101, end: 900 },
      ],
    ],
    [{ start: 100, end: 900 }, 100, null],
    [{ start: 100, end: 900 }, 900, null],
    [{}, 0, null],
  ])('one of the cut %j is split at frame %i', (cut, frame, wanted) => {
    const view = jobOf(['a', 'b']);
    const sources = view.sources.map((source) => ({ ...source, facts: { ...source.facts, frames: 1000 } }));
    const store = createJobStore({ ...view, sources });
    store.getState().changeSettings('a', { cut });
    store.getState().splitClip('a', frame);
    const cuts = clipsOf(store).map(({ name, pieces: [piece] }) => [name, piece?.cut]);
    expect(cuts.slice(0, -1)).toEqual(
      wanted
        ? [
            ['a', wanted[0]],
            ['a 2', wanted[1]],
          ]
        : [['a', cut]],
    );
  });

  test('take the settings of another, and a wish of one becomes that of all', () => {
    const store = createJobStore(jobOf(['a', 'b', 'c']));
    const { changeSettings, copyWishes, wishForAll, forgetForAll, likeOthers } = store.getState();
    const levels = () => clipsOf(store).map((clip) => settingsOf(clip, store.getState().job).level);
    changeSettings('a', { level: { peakDb: -3 } });
    changeSettings('c', { level: { peakDb: -9 } });
    wishForAll('a', 'level');
    expect(levels()).toEqual([{ peakDb: -3 }, { peakDb: -3 }, { peakDb: -9 }]);
    expect(clipsOf(store)[0]?.wishes).toEqual({});
    changeSettings('b', { level: 'automatic' });
    expect(levels()[1]).toBe('automatic');
    copyWishes('c', ['a', 'b']);
    expect(levels()).toEqual([{ peakDb: -9 }, { peakDb: -9 }, { peakDb: -9 }]);
    likeOthers('b', 'level');
    forgetForAll('level');
    expect(levels()).toEqual([{ peakDb: -9 }, 'automatic', { peakDb: -9 }]);
  });
});

describe('changes', () => {
  test('whatever is done here, the changes of it do the same elsewhere', () => {
    type Step = (store: JobStore, pick: number) => void;
    const steps: Step[] = [
      (store) => store.getState().addClips([dropped('x')]),
      (store, pick) => store.getState().removeClips([ids(store)[pick % Math.max(1, ids(store).length)] ?? '']),
      (store, pick) => store.getState().moveClip(ids(store)[0] ?? '', ids(store)[pick % 3] ?? '', pick > 3),
      (store, pick) => store.getState().changeSettings(ids(store)[0] ?? '', { name: `n${pick}` }),
      (store, pick) =>
        store.getState().changeSettings(ids(store)[0] ?? '', { cut: pick ? { start: pick } : 'automatic' }),
      (store, pick) => store.getState().duplicateClips(ids(store).slice(0, pick % 3)),
      (store, pick) => store.getState().splitClip(ids(store)[0] ?? '', pick),
      (store) => store.getState().wishForAll(ids(store)[0] ?? '', 'level'),
      (store, pick) =>
        store.getState().changeSettings(ids(store)[0] ?? '', { level: pick % 2 ? 'automatic' : { peakDb: -pick } }),
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
