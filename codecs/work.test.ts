import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import {
  automaticSettings,
  Cancelled,
  type Chain,
  type ClipSettings,
  inMemory,
  type Library,
  makeClip,
  memoryStore,
  type Pcm,
  parseSettings,
  pcmReader,
  settle,
  WORK_FRAMES,
  type Work,
  wholeOf,
} from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { factsFor } from '../core/chain/fixtures/sources.ts';
import { BUSY, free, kinds } from './fixtures/renders.ts';
import { random } from './fixtures/sounds.ts';
import { library } from './index.ts';

/** Work is watched all the way: asked often whether it goes on, told evenly, and nothing of it stays open. */

const next = random(5);
const sound: Pcm = {
  sampleRate: 44_100,
  channels: [0, 1].map((channel) =>
    Float32Array.from({ length: 150_000 }, (_, i) => 0.3 * Math.sin(i * (0.03 + channel / 50)) + 0.1 * (next() - 0.5)),
  ),
};
const facts = factsFor(sound);

const chainOf = (settings: Partial<ClipSettings>): Chain =>
  settle({ facts, settings: parseSettings({ ...automaticSettings('x'), ...settings }), target: free, stem: 'x' });

/** What was opened and what was closed, and the frames of work between two looks. */
function observed(mostKept?: number) {
  const seen = { opened: 0, closed: 0, most: 0, since: 0 };
  const worked = (frames: number) => {
    seen.since += frames;
    seen.most = Math.max(seen.most, seen.since);
  };
  const reader = pcmReader(sound);
  const counting: Library = {
    ...library,
    async openEncoder(order) {
      const encoder = await library.openEncoder(order);
      seen.opened++;
      return {
        ...encoder,
        push(block) {
          worked(block[0].length);
          return encoder.push(block);
        },
        async close() {
          seen.closed++;
          await encoder.close();
        },
      };
    },
  };
  return {
    seen,
    library: counting,
    source: {
      ...reader,
      read(start: number, count: number) {
        worked(count);
        return reader.read(start, count);
      },
    },
    hear: (block: readonly Float32Array[]) => worked(block[0].length),
    ...(mostKept === undefined ? {} : { mostKept }),
  };
}

type Observed = ReturnType<typeof observed>;

const make = ({ source, ...options }: Observed, settings: Partial<ClipSettings>, work: Work) =>
  makeClip(chainOf(settings), source, work, options);

describe.each(kinds)('%s', (_, wrap) => {
  const settings = {
    ...wrap,
    ...BUSY,
    ends: { trim: {}, fadeIn: { ms: 20 }, front: { ms: 2000 }, back: { ms: 2000 } },
  };

  test.each([undefined, 0])('is asked often, and told from 0 to 1 once (kept up to: %s)', async (mostKept) => {
    const watched = observed(mostKept);
    const told: number[] = [];
    await make(watched, settings, {
      check() {
        watched.seen.since = 0;
      },
      progress: (part) => told.push(part),
    });
    expect(watched.seen.most).toBeGreaterThan(0);
    expect(watched.seen.most).toBeLessThanOrEqual(WORK_FRAMES);
    expect(told).toEqual(told.toSorted((a, b) => a - b));
    expect(told[0]).toBeLessThan(0.2);
    expect(told.at(-1)).toBe(1);
    expect(watched.seen.closed).toBe(watched.seen.opened);
  });

  test('is cancelled at every tenth of the work, and closes what it had opened', async () => {
    for (let tenth = 0; tenth < 10; tenth++) {
      const watched = observed();
      let done = 0;
      let asked = 0;
      const work: Work = {
        check() {
          if (10 * done < tenth) return;
          asked++;
          throw new Cancelled();
        },
        progress: (part) => {
          done = part;
        },
      };
      await expect(make(watched, settings, work)).rejects.toThrow(Cancelled);
      expect(asked).toBe(1);
      expect(watched.seen.closed).toBe(watched.seen.opened);
    }
  });

  test('takes of its source what it needs before it asks for more', async () => {
    const whole = pcmReader(sound);
    let given: readonly Float32Array[] = [];
    const forgetful = {
      ...whole,
      async read(start: number, count: number) {
        for (const samples of given) samples.fill(Number.NaN);
        given = (await whole.read(start, count)).map((samples) => samples.slice());
        return given;
      },
    };
    const [made, expected] = await Promise.all(
      [forgetful, whole].map((source) => makeClip(chainOf(settings), source, idle, { library })),
    );
    expect(Buffer.from(wholeOf(made.file)).equals(wholeOf(expected.file))).toBe(true);
    expect(made.report).toEqual(expected.report);
  });

  test('that cannot be written or read again closes what it had opened', async () => {
    for (const fault of ['write', 'read']) {
      const watched = observed();
      const store = memoryStore();
      const faulty = {
        ...store,
        write: () => {
          if (fault === 'write') throw new Error('no room');
        },
        written: () => inMemory(new Uint8Array(0)),
      };
      const made = makeClip(chainOf(settings), watched.source, idle, { library: watched.library, store: faulty });
      await expect(made).rejects.toThrow();
      expect(watched.seen.closed).toBe(watched.seen.opened);
    }
  });
});

const idle: Work = { check: () => undefined, progress: () => undefined };

setFlagsFromString('--expose_gc');
const collect: () => void = runInNewContext('gc');

const handles = () =>
  process.getActiveResourcesInfo().filter((kind) => !/Timeout|Immediate|Pipe|TTY/.test(kind)).length;

/** Renders of each kind; `npm run torture` does many. */
const RENDERS = Number(process.env.TAMBUR_ROUNDS ?? 20);

test.each(kinds.slice(2))(
  '%s: cancelled renders leave no thread, no handle, no memory',
  async (_, wrap) => {
    const cancelled = async (count: number) => {
      for (let i = 0; i < count; i++) {
        let looks = 0;
        const work: Work = {
          // Into the encoder, by some blocks: then it is not wanted any more.
          check() {
            if (++looks > 4) throw new Cancelled();
          },
          progress: () => undefined,
        };
        const chain = chainOf({ ...wrap, cut: { start: 0, end: 80_000 } });
        await expect(makeClip(chain, pcmReader(sound), work, { library })).rejects.toThrow(Cancelled);
      }
    };
    const idleHandles = handles();
    await cancelled(5);
    collect();
    const before = process.memoryUsage().rss;
    await cancelled(RENDERS);
    // Threads end in their own time.
    await expect.poll(handles).toBeLessThanOrEqual(idleHandles);
    collect();
    // The heaps of so many encoders would take far more.
    expect(process.memoryUsage().rss - before).toBeLessThan(200_000_000);
  },
  600_000,
);
