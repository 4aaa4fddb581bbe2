import type { Pcm } from '@tambur/core';
import { describe, expect, test } from 'vitest';
import type { DevicePlay } from '../sound/workers/tryout-worker.ts';
import { type Program, type ProgramStep, type Side, timelineOf } from './program.ts';

const RATE = 10;

const sound = (...channels: number[][]): Pcm => ({
  sampleRate: RATE,
  channels: channels.map((samples) => Float32Array.from(samples)),
});

/** What the device makes of an entry: on its side, and as it should be. */
type Sounds = Readonly<Record<string, Partial<Record<Side, readonly Pcm[]>> | Error>>;

/** A program of sounds that are known, and what was asked for. */
async function programOf(sounds: Sounds, program: Program) {
  const asked: [string, boolean][] = [];
  const timeline = await timelineOf(program, async ({ path }: ProgramStep, isRepeated): Promise<DevicePlay> => {
    asked.push([path, isRepeated]);
    const made = sounds[path];
    if (!made || made instanceof Error) throw made ?? new Error('no such sound');
    const { device = [], right = [] } = made;
    return {
      sampleRate: RATE,
      device,
      right,
      held: device.length ? null : 'a call',
      cutAfter: null,
      playsAt: RATE,
      log: [],
    };
  });
  /** One channel of a side, from the beginning, read in pieces as a player does. */
  const heard = async (side: Side, frames: number, piece = 3, channel = 0) => {
    const all: number[] = [];
    for (let at = 0; at < frames; at += piece) {
      const channels = await timeline.sides[side].read(at, Math.min(piece, frames - at));
      expect(channels).toHaveLength(2);
      all.push(...(channels[channel] ?? []));
    }
    return all;
  };
  return { asked, timeline, heard };
}

describe('a round', () => {
  const round: Sounds = {
    a: { device: [sound([1, 2]), sound([3, 4, 5])], right: [sound([1, 2]), sound([6, 7])] },
  };

  test.each([
    1, 2, 3, 7, 100,
  ])('follows upon itself without a gap on either side, read in pieces of %i frames', async (piece) => {
    const { asked, heard } = await programOf(round, { steps: [{ path: 'a' }], isForever: true });
    expect(await heard('device', 11, piece)).toEqual([1, 2, 3, 4, 5, 3, 4, 5, 3, 4, 5]);
    expect(await heard('right', 9, piece)).toEqual([1, 2, 6, 7, 6, 7, 6, 7, 6]);
    expect(asked).toEqual([['a', true]]);
  });

  test.each<[string, ProgramStep]>([
    ['with a pause', { path: 'a', pause: 0.2 }],
    ['that begins late', { path: 'a', lead: 0.2 }],
  ])('%s begins anew each time, together on both sides', async (_, step) => {
    const sounds: Sounds = { a: { device: [sound([1, 2, 3])], right: [sound([4])] } };
    const { asked, heard } = await programOf(sounds, { steps: [step], isForever: true });
    const [before, after] = step.lead ? [[0, 0], []] : [[], [0, 0]];
    expect(await heard('device', 10)).toEqual([...before, 1, 2, 3, ...after, ...before, 1, 2, 3, ...after]);
    expect(await heard('right', 10)).toEqual([...before, 4, 0, 0, ...after, ...before, 4, 0, 0, ...after]);
    expect(asked.every(([, isRepeated]) => !isRepeated)).toBe(true);
  });
});

describe('a program', () => {
  const sounds: Sounds = {
    a: { device: [sound([1, 1])], right: [sound([1, 1, 1])] },
    b: { device: [sound([2], [3])], right: [sound([2], [3])] },
    held: { right: [sound([9])] },
    silent: { device: [sound([])], right: [sound([])] },
    bad: new Error('damaged'),
  };
  const stepsOf = (...paths: string[]): Program['steps'] => paths.map((path) => ({ path, pause: 0.1 }));

  test('is over after its steps, which are told when they are heard', async () => {
    const { timeline, heard } = await programOf(sounds, { steps: stepsOf('a', 'b') });
    expect(await heard('device', 8)).toEqual([1, 1, 0, 0, 2, 0, 0, 0]);
    expect(await heard('right', 8)).toEqual([1, 1, 1, 0, 2, 0, 0, 0]);
    const told = (frame: number) => timeline.reached(frame).map(({ step }) => step.path);
    expect([told(0), told(3), told(4), told(8)]).toEqual([['a'], [], ['b'], []]);
    expect([5, 6].map((frame) => timeline.isOver(frame))).toEqual([false, true]);
  });

  test('says where each sound begins: after what leads to it', async () => {
    const { timeline, heard } = await programOf(sounds, {
      steps: [{ path: 'a', lead: 0.2, pause: 0.1 }, { path: 'b' }],
    });
    expect(await heard('device', 8)).toEqual([0, 0, 1, 1, 0, 0, 2, 0]);
    expect(timeline.reached(8).map(({ at, begins }) => [at, begins])).toEqual([
      [0, 2],
      [6, 6],
    ]);
  });

  test('one channel is heard on both sides, two each on its own', async () => {
    const { heard } = await programOf(sounds, { steps: stepsOf('a', 'b') });
    expect(await heard('device', 6, 3, 1)).toEqual([1, 1, 0, 0, 3, 0]);
  });

  test('goes on for ever, made while it is played', async () => {
    const { asked, heard } = await programOf(sounds, { steps: stepsOf('a', 'b'), isForever: true });
    await heard('device', 60);
    expect(await heard('right', 60)).toEqual(Array.from({ length: 10 }, () => [1, 1, 1, 0, 2, 0]).flat());
    expect(asked.slice(0, 4).map(([path]) => path)).toEqual(['a', 'b', 'a', 'b']);
    const ahead = await programOf(sounds, { steps: stepsOf('a', 'b'), isForever: true });
    await ahead.heard('device', 6);
    expect(ahead.asked.length).toBeLessThanOrEqual(4);
  });

  test.each(['held', 'silent'])('of what is %s ends after a round, for ever as it was to go on', async (path) => {
    const { timeline, heard } = await programOf(sounds, { steps: [{ path }], isForever: true });
    await Promise.all([heard('device', 4), heard('right', 4)]);
    expect(timeline.reached(4).map(({ performed }) => performed.held)).toEqual([path === 'held' ? 'a call' : null]);
    expect(timeline.isOver(4)).toBe(true);
  });

  test('says what goes wrong when its turn comes, and not before', async () => {
    const { heard } = await programOf(sounds, { steps: stepsOf('a', 'bad') });
    expect(await heard('device', 4)).toEqual([1, 1, 0, 0]);
    await expect(heard('device', 5)).rejects.toThrow('damaged');
    await expect(programOf(sounds, { steps: stepsOf('bad') })).rejects.toThrow('damaged');
  });
});

describe('another program', () => {
  const sounds: Sounds = {
    a: { device: [sound([1]), sound([1])], right: [sound([9]), sound([9])] },
    b: { device: [sound([2, 3]), sound([2, 3])], right: [sound([8]), sound([8])] },
    short: { device: [sound([5])], right: [sound([5])] },
    bad: new Error('damaged'),
  };
  const round = (path: string): Program => ({ steps: [{ path }], isForever: true });
  /** Seconds: 4 frames. */
  const BAR = 0.4;

  test.each([
    [1, 4],
    [4, 4],
    [5, 8],
    [6, 8],
  ])('takes over on the first bar that is not on its way yet: after %i frames at frame %i', async (read, at) => {
    const { timeline } = await programOf(sounds, round('a'));
    const told = (frame: number) => timeline.reached(frame).map(({ step }) => step.path);
    await timeline.sides.device.read(0, read);
    await timeline.follow(round('b'), BAR);
    const device = (await timeline.sides.device.read(read, 12 - read))[0];
    const right = (await timeline.sides.right.read(0, 12))[0];
    expect([...(device ?? [])]).toEqual(
      Array.from({ length: 12 - read }, (_, i) => (read + i < at ? 1 : 2 + ((read + i - at) % 2))),
    );
    expect([...(right ?? [])]).toEqual(Array.from({ length: 12 }, (_, i) => (i < at ? 9 : 8)));
    expect([told(at - 1), told(at)]).toEqual([expect.not.arrayContaining(['b']), expect.arrayContaining(['b'])]);
  });

  test('is the last one that was called for', async () => {
    const { timeline } = await programOf(sounds, round('a'));
    await Promise.all([timeline.follow(round('b'), BAR), timeline.follow(round('short'), BAR)]);
    expect([...((await timeline.sides.device.read(0, 6))[0] ?? [])]).toEqual([5, 5, 5, 5, 5, 5]);
    await timeline.follow(round('b'), BAR);
    await timeline.follow(round('a'), BAR);
    expect([...((await timeline.sides.device.read(6, 4))[0] ?? [])]).toEqual([5, 5, 1, 1]);
  });

  test('waits for the bar in silence where the one before is over', async () => {
    const { timeline } = await programOf(sounds, { steps: [{ path: 'short' }] });
    await timeline.sides.device.read(0, 2);
    await timeline.follow(round('a'), BAR);
    expect([...((await timeline.sides.device.read(2, 4))[0] ?? [])]).toEqual([0, 0, 1, 1]);
    expect(timeline.isOver(100)).toBe(false);
  });

  test('that cannot be played leaves the one before as it is', async () => {
    const { timeline } = await programOf(sounds, round('a'));
    await expect(timeline.follow(round('bad'), BAR)).rejects.toThrow('damaged');
    expect([...((await timeline.sides.device.read(0, 6))[0] ?? [])]).toEqual([1, 1, 1, 1, 1, 1]);
  });
});
