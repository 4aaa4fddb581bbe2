import { QueryClient } from '@tanstack/react-query';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { ApiError, OFFLINE } from '../api/errors.ts';
import { jobOf } from '../fixtures/views.ts';
import { Autosave, type SaveState, type StoreClips } from './autosave.ts';
import { createJobStore } from './job-store.ts';

/** A server that keeps one clip list and takes only what was changed on its newest revision. */
function bench() {
  const job = jobOf(['one']);
  const store = createJobStore(job);
  const told: SaveState[] = [];
  const puts: number[] = [];
  const answers: (() => void)[] = [];
  let stored = job.revision;
  let isOffline = false;
  const put: StoreClips = async (revision, clips) => {
    if (isOffline) throw OFFLINE;
    puts.push(clips.length);
    await new Promise<void>((resolve) => answers.push(resolve));
    if (revision !== stored) throw new ApiError('conflict', 'Somebody else changed the job.', 409);
    return ++stored;
  };
  const save = new Autosave(new QueryClient(), job, store, put, (state) => told.push(state));
  store.subscribe(() => save.later());
  const clipId = job.clips[0]?.id ?? '';
  let changes = 0;
  return {
    save,
    told,
    puts,
    answers,
    change: () => store.getState().changeSettings(clipId, { name: `name ${changes++}` }),
    answer: async () => {
      answers.shift()?.();
      await vi.advanceTimersByTimeAsync(0);
    },
    offline: (value: boolean) => {
      isOffline = value;
    },
  };
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe('saving by itself', () => {
  test('changes that come close together are one save', async () => {
    const { save, told, puts, change, answer } = bench();
    change();
    change();
    expect(save.pending).toBe(true);
    await vi.advanceTimersByTimeAsync(400);
    await answer();
    expect(puts).toHaveLength(1);
    expect(told.at(-1)).toEqual({ state: 'saved' });
    expect(save.pending).toBe(false);
  });

  test('two that want it saved at once make one save, and no conflict', async () => {
    const { save, puts, change, answer } = bench();
    change();
    const both = Promise.all([save.now(), save.now()]);
    await vi.advanceTimersByTimeAsync(0);
    await answer();
    await answer();
    expect(await both).toEqual([true, true]);
    expect(puts).toHaveLength(1);
  });

  test('a change during a save is saved after it, on the new revision', async () => {
    const { save, told, puts, change, answer } = bench();
    change();
    const first = save.now();
    await vi.advanceTimersByTimeAsync(0);
    change();
    await answer();
    expect(await first).toBe(false);
    await vi.advanceTimersByTimeAsync(400);
    await answer();
    expect(puts).toHaveLength(2);
    expect(told.at(-1)).toEqual({ state: 'saved' });
  });

  test('without a server it is said, and tried again until it is there', async () => {
    const { save, told, change, answer, offline } = bench();
    offline(true);
    change();
    await vi.advanceTimersByTimeAsync(400);
    expect(told.at(-1)).toEqual({ state: 'failed', message: OFFLINE.message });
    expect(await save.now()).toBe(false);
    offline(false);
    await vi.advanceTimersByTimeAsync(3_100);
    await answer();
    expect(told.at(-1)).toEqual({ state: 'saved' });
  });

  test('what the server refuses is said and not tried again', async () => {
    const { save, told, puts, change, answer } = bench();
    change();
    const first = save.now();
    await vi.advanceTimersByTimeAsync(0);
    await answer();
    await first;
    // As another window would.
    Object.assign(save, { revision: 0 });
    change();
    await vi.advanceTimersByTimeAsync(400);
    await answer();
    expect(told.at(-1)).toEqual({ state: 'failed', message: 'Somebody else changed the job.' });
    await vi.advanceTimersByTimeAsync(10_000);
    expect(puts).toHaveLength(2);
  });
});
