import { expect, test } from 'vitest';
import { pcmReader, unwatched } from '../audio/index.ts';
import { wholeOf } from '../bytes/index.ts';
import { targetOf } from '../targets/index.ts';
import { factsFor, sources } from './fixtures/sources.ts';
import { automaticSettings, memoryStore, parseSettings, render, Stages, settle } from './index.ts';

const pcm = sources.long;
const chainOf = (wishes: object) =>
  settle({
    facts: factsFor(pcm),
    settings: parseSettings({ ...automaticSettings('x'), ...wishes }),
    target: targetOf('desk-phone-ring-tone'),
  });

/** A source that counts what is read of it. */
function counted() {
  const reader = pcmReader(pcm);
  let frames = 0;
  return {
    frames: () => frames,
    reader: {
      ...reader,
      read: (start: number, count: number) => {
        frames += count;
        return reader.read(start, count);
      },
    },
  };
}

async function bytesOf(wishes: object, reader = pcmReader(pcm), stages?: Stages, work = unwatched) {
  const store = memoryStore();
  await render(chainOf(wishes), reader, store, work, stages ? { stages } : {});
  return wholeOf(store.written());
}

test('what comes after the rate is made of what is there already; what comes before it is made again; the bytes are the same', async () => {
  const stages = new Stages();
  const { reader, frames } = counted();
  const whole = pcm.channels[0].length;
  for (const [wishes, read] of [
    [{}, whole],
    [{ level: { peakDb: -6 } }, 0],
    [{ level: { gainDb: 0 }, ends: { fadeIn: { ms: 20 } } }, 0],
    [{ depth: { dither: 'none' } }, 0],
    [{ channels: { mode: 'left' } }, whole],
    [{ channels: { mode: 'left' }, cut: { start: 0, end: 44_100 } }, 44_100],
    [{ channels: { mode: 'left' }, cut: { start: 0, end: 44_100 }, level: { peakDb: -6 } }, 0],
  ] as const) {
    const before = frames();
    const made = await bytesOf(wishes, reader, stages);
    expect([wishes, frames() - before]).toEqual([wishes, read]);
    expect(made).toEqual(await bytesOf(wishes));
  }
});

test('what was begun and not finished is not used', async () => {
  const stages = new Stages();
  const { reader, frames } = counted();
  let checks = 0;
  const impatient = {
    check: async () => {
      if (++checks > 3) throw new Error('not wanted any more');
    },
    progress: () => undefined,
  };
  await expect(bytesOf({}, reader, stages, impatient)).rejects.toThrow('not wanted any more');
  const before = frames();
  expect(await bytesOf({}, reader, stages)).toEqual(await bytesOf({}));
  expect(frames() - before).toBe(pcm.channels[0].length);
});
