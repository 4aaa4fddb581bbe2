import { applyChange, type Change, type WorkingJob, wordsOfChange } from '@tambur/core';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { inverseOf } from '../../core/documents/fixtures/inverse.ts';
import { ApiError, OFFLINE } from '../api/errors.ts';
import { jobOf } from '../fixtures/views.ts';
import { beginGesture, createJobStore } from './job-store.ts';
import { type JobServer, JobSync, type SaveState } from './job-sync.ts';

/** A server of a few lines, with as many windows as wanted; it answers when it is told to. */
function office() {
  const view = jobOf(['a', 'b']);
  let job: WorkingJob = view.job;
  const log: { is: Change; was: Change }[] = [];
  const undone: Change[] = [];
  let isOffline = false;
  let isSlow = false;
  const answers: (() => void)[] = [];
  const sent: Change[] = [];
  const put = (is: Change) => {
    log.push({ is, was: inverseOf(job, is) });
    job = applyChange(job, is);
  };
  const history = () => ({ undo: log.length, redo: undone.length });
  const arrive = async () => {
    if (isOffline) throw OFFLINE;
    if (isSlow) await new Promise<void>((resolve) => answers.push(resolve));
  };
  const server: JobServer = {
    async send(base, change) {
      await arrive();
      sent.push(change);
      const since = log.slice(base).flatMap(({ is }) => Object.keys(is));
      if (Object.keys(change).some((place) => since.includes(place)))
        throw new ApiError('changed-elsewhere', 'No.', 409);
      if ('values/tempo' in change) throw new ApiError('bad-setting', 'There is no such blank.', 400);
      put(change);
      return { revision: log.length, history: history() };
    },
    async step() {
      await arrive();
      const last = log.at(-1);
      if (last) put(last.was);
    },
    async goTo(last) {
      await arrive();
      for (const { was } of log.slice(last).reverse()) put(was);
    },
    async steps() {
      await arrive();
      return log.map(({ is, was }, i) => ({ revision: i + 1, words: wordsOfChange(is, was), isMade: true }));
    },
    async after(revision) {
      await arrive();
      const changes = log.slice(revision).map(({ is }) => is);
      return { revision: log.length, history: history(), changes, sources: [] };
    },
    load: async () => ({ ...view, job, revision: log.length }),
  };
  const open = () => {
    const told: SaveState[] = [];
    const lost: string[] = [];
    const store = createJobStore({ ...view, job });
    const sync = new JobSync({ job, revision: log.length }, store, server, {
      state: (state) => told.push(state),
      lost: (message) => lost.push(message),
    });
    store.subscribe(() => sync.later());
    const names = () => store.getState().job.clips.map(({ name }) => name);
    return {
      store,
      sync,
      told,
      lost,
      names,
      name: (id: string, name: string) => store.getState().changeSettings(id, { name }),
    };
  };
  return {
    open,
    sent,
    answers,
    names: () => job.clips.map(({ name }) => name),
    revision: () => log.length,
    offline: (value: boolean) => {
      isOffline = value;
    },
    slow: (value: boolean) => {
      isSlow = value;
    },
  };
}

const pass = (ms = 0) => vi.advanceTimersByTimeAsync(ms);

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe('saving by itself', () => {
  test('changes are sent a little later, one after the other, each a step of its own', async () => {
    const { open, sent, names } = office();
    const { sync, told, name } = open();
    name('a', 'one');
    name('a', 'two');
    expect([sync.pending, sent.length]).toEqual([true, 0]);
    await pass(400);
    expect(sent).toHaveLength(2);
    expect(names()).toEqual(['two', 'b']);
    expect([sync.pending, told.at(-1)]).toEqual([false, { state: 'saved' }]);
  });

  test('a drag is one change, however long it takes', async () => {
    const { open, sent } = office();
    const { store, name } = open();
    const end = beginGesture(store);
    for (let i = 0; i < 5; i++) {
      name('a', `at ${i}`);
      await pass(1000);
    }
    expect(sent).toEqual([]);
    end();
    await pass(400);
    expect(sent).toHaveLength(1);
  });

  test('two that want it saved at once send it once; a change meanwhile comes after it', async () => {
    const { open, sent, names, slow, answers } = office();
    const { sync, name } = open();
    slow(true);
    name('a', 'one');
    const both = Promise.all([sync.now(), sync.now()]);
    await pass();
    name('a', 'two');
    for (let i = 0; i < 3; i++) {
      answers.shift()?.();
      await pass(400);
    }
    expect(await both).toEqual([true, true]);
    expect(sent).toHaveLength(2);
    expect(names()).toEqual(['two', 'b']);
  });

  test('without a server it is said, and tried again until it is there', async () => {
    const { open, offline, names } = office();
    const { sync, told, name } = open();
    offline(true);
    name('a', 'one');
    await pass(400);
    expect(told.at(-1)).toEqual({ state: 'failed', message: OFFLINE.message });
    expect(await sync.now()).toBe(false);
    offline(false);
    await pass(3_100);
    expect([names(), told.at(-1)]).toEqual([['one', 'b'], { state: 'saved' }]);
  });

  test('what the server refuses is said, and not kept here either', async () => {
    const { open } = office();
    const { store, lost, told } = open();
    store.setState(({ job }) => ({ job: applyChange(job, { 'values/tempo': 9 }), pending: [{ 'values/tempo': 9 }] }));
    await pass(400);
    expect(lost).toEqual(['There is no such blank.']);
    expect(store.getState().job.values).toEqual({});
    expect(told.at(-1)).toEqual({ state: 'saved' });
  });
});

describe('two windows', () => {
  test('follow each other, and keep what both of them changed', async () => {
    const { open, names, revision } = office();
    const [one, two] = [open(), open()];
    one.name('a', 'from one');
    await pass(400);
    two.name('b', 'from two');
    await pass(400);
    expect(names()).toEqual(['from one', 'from two']);
    expect(two.names()).toEqual(['from one', 'from two']);
    await one.sync.catchUp(revision());
    expect(one.names()).toEqual(['from one', 'from two']);
    expect([one.lost, two.lost]).toEqual([[], []]);
  });

  test('at the same place: the first one stays, and the other is told', async () => {
    const { open, names } = office();
    const [one, two] = [open(), open()];
    one.name('a', 'from one');
    await pass(400);
    two.name('a', 'from two');
    two.name('b', 'also from two');
    await pass(400);
    expect(names()).toEqual(['from one', 'also from two']);
    expect(two.names()).toEqual(names());
    expect(two.lost).toEqual([expect.stringMatching(/^Another window changed the same thing/)]);
  });

  test('what is not sent yet gives way to what has come, and that is said', async () => {
    const { open, revision } = office();
    const [one, two] = [open(), open()];
    const end = beginGesture(two.store);
    two.name('a', 'from two');
    one.name('a', 'from one');
    await pass(400);
    await two.sync.catchUp(revision());
    end();
    expect(two.names()).toEqual(['from one', 'b']);
    expect(two.lost).toHaveLength(1);
    expect(two.sync.pending).toBe(false);
  });
});

test('undo sends what is not sent yet, and takes over what the server took back', async () => {
  const { open, names } = office();
  const { sync, name, told, ...here } = open();
  name('a', 'one');
  await pass(400);
  name('b', 'two');
  const undone = sync.step('undo');
  expect(told.at(-1)).toEqual({ state: 'saving' });
  expect(await undone).toBe(true);
  expect(told.at(-1)).toEqual({ state: 'saved' });
  expect([names(), here.names()]).toEqual([
    ['one', 'b'],
    ['one', 'b'],
  ]);
  expect(here.store.getState().history).toEqual({ undo: 3, redo: 0 });
});
