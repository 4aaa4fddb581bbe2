import { pcmReader } from '@tambur/core';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { LanePlayer } from './player.ts';

/** Pieces that were scheduled: which lane, when, and which samples. */
interface Piece {
  readonly lane: 'source' | 'result';
  readonly at: number;
  readonly samples: number[];
}

const RATE = 1000;
let pieces: Piece[];
let contexts: FakeContext[];

class FakeGain {
  readonly gain = { value: 0, setTargetAtTime: (value: number) => this.set(value) };
  constructor(
    readonly context: FakeContext,
    options: { gain: number },
  ) {
    this.gain.value = options.gain;
    context.gains.push(this);
  }
  private set(value: number) {
    this.gain.value = value;
  }
  connect(): void {}
}

class FakeContext {
  currentTime = 0;
  closed = false;
  readonly destination = {};
  readonly gains: FakeGain[] = [];
  readonly sampleRate: number;
  constructor({ sampleRate }: { sampleRate: number }) {
    this.sampleRate = sampleRate;
    contexts.push(this);
  }
  resume = async () => undefined;
  close = async () => {
    this.closed = true;
  };
  createBuffer(_: number, frames: number) {
    const samples: number[] = [];
    return { frames, samples, copyToChannel: (data: Float32Array) => samples.push(...data) };
  }
}

class FakeNode {
  onended: (() => void) | undefined;
  private lane: Piece['lane'] = 'source';
  constructor(
    private readonly context: FakeContext,
    private readonly options: { buffer: { samples: number[] } },
  ) {}
  connect(gain: FakeGain) {
    // The first is the output.
    this.lane = this.context.gains.indexOf(gain) === 1 ? 'source' : 'result';
  }
  start(at: number) {
    pieces.push({ lane: this.lane, at, samples: this.options.buffer.samples });
  }
  stop(): void {}
}

beforeEach(() => {
  pieces = [];
  contexts = [];
  vi.useFakeTimers();
  vi.stubGlobal('AudioContext', FakeContext);
  vi.stubGlobal('GainNode', FakeGain);
  vi.stubGlobal('AudioBufferSourceNode', FakeNode);
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const ramp = (from: number, count: number) => Float32Array.from({ length: count }, (_, i) => from + i);
/** Five seconds in which each sample is its own frame number; the result is the cut, shifted by 100 000. */
const source = pcmReader({ sampleRate: RATE, channels: [ramp(0, 5000)] });
const result = pcmReader({ sampleRate: RATE, channels: [ramp(100_000, 2400)] });

function load(cut = { start: 1000, end: 3500 }) {
  const player = new LanePlayer();
  player.load({ source, cut, lanes: { result: { reader: result } }, sampleRate: RATE });
  return player;
}

/** Lets `seconds` pass, clock and timers alike. */
async function pass(seconds: number): Promise<void> {
  for (let step = 0; step < seconds / 0.025; step++) {
    for (const context of contexts) context.currentTime += 0.025;
    await vi.advanceTimersByTimeAsync(25);
  }
}

/** All samples of a lane in the order in which they sound; the gaps between pieces have to be none. */
function heard(lane: Piece['lane']): number[] {
  const mine = pieces.filter((piece) => piece.lane === lane);
  mine.forEach((piece, i) => {
    const before = mine[i - 1];
    if (before) expect(piece.at).toBeCloseTo(before.at + before.samples.length / RATE, 9);
  });
  return mine.flatMap(({ samples }) => samples);
}

describe('playing', () => {
  test('source and result sound together from the start of the cut to its end, piece by piece without a gap', async () => {
    const player = load();
    player.toggle();
    await pass(3);
    expect(heard('source')).toEqual([...ramp(1000, 2500)]);
    expect(heard('result')).toEqual([...ramp(100_000, 2400)]);
    expect(pieces[0]?.at).toBe(pieces.find(({ lane }) => lane === 'source')?.at);
    expect(player.store.getState()).toMatchObject({ playing: false, position: 1000, problem: null });
  });

  test('no more than a few seconds are scheduled ahead', async () => {
    load().toggle();
    await pass(0.1);
    expect(heard('source').length).toBeLessThanOrEqual(3000);
    expect(heard('source').length).toBeGreaterThanOrEqual(2000);
  });

  test('a loop repeats after exactly the frames of the result', async () => {
    const player = load();
    player.setLoop(true);
    player.toggle();
    await pass(6);
    const sounded = heard('result');
    expect(sounded.slice(0, 2400)).toEqual([...ramp(100_000, 2400)]);
    expect(sounded.slice(2400, 4800)).toEqual([...ramp(100_000, 2400)]);
    const { playing, position } = player.store.getState();
    expect(playing).toBe(true);
    expect(position).toBeGreaterThanOrEqual(1000);
    expect(position).toBeLessThan(3400);
    player.stop();
  });

  test('outside the cut the source plays on to its end, alone', async () => {
    const player = load();
    player.seek(4000);
    player.toggle();
    await pass(1.5);
    expect(heard('source')).toEqual([...ramp(4000, 1000)]);
    expect(heard('result')).toEqual([]);
  });

  test('switching changes which lane is loud, and nothing else', async () => {
    const player = load();
    player.toggle();
    await pass(0.2);
    const [, sourceGain, resultGain] = contexts[0]?.gains ?? [];
    expect([sourceGain?.gain.value, resultGain?.gain.value]).toEqual([0, 1]);
    const scheduled = pieces.length;
    player.listen('source');
    expect([sourceGain?.gain.value, resultGain?.gain.value]).toEqual([1, 0]);
    expect(pieces).toHaveLength(scheduled);
    player.stop();
  });

  test('a new result while it plays goes on from the same place', async () => {
    const player = load();
    player.toggle();
    await pass(1);
    const { position } = player.store.getState();
    pieces = [];
    player.load({ source, cut: { start: 1000, end: 3500 }, lanes: {}, sampleRate: RATE });
    await pass(0.1);
    expect(heard('source')[0]).toBe(position);
    player.close();
    expect(contexts[0]?.closed).toBe(true);
  });

  test('sound that cannot be fetched stops with its reason', async () => {
    const player = new LanePlayer();
    const broken = { ...source, read: () => Promise.reject(new Error('The server does not answer.')) };
    player.load({ source: broken, cut: { start: 0, end: 5000 }, lanes: {}, sampleRate: RATE });
    player.toggle();
    await pass(0.1);
    expect(player.store.getState()).toMatchObject({ playing: false, problem: 'The server does not answer.' });
  });

  test('a rate that the browser does not play is said, and nothing plays', async () => {
    vi.stubGlobal(
      'AudioContext',
      class {
        constructor() {
          throw new DOMException('not supported', 'NotSupportedError');
        }
      },
    );
    const player = load();
    player.toggle();
    await pass(0.1);
    const { playing, problem } = player.store.getState();
    expect(playing).toBe(false);
    expect(problem).toBe('This browser cannot play sound at 1\u202f000 Hz; the file itself is not affected.');
  });
});

test('as many lanes as there are run side by side, each at its own gain, and the one that is asked for is heard', async () => {
  const player = new LanePlayer();
  const cut = { start: 1000, end: 3500 };
  const other = pcmReader({ sampleRate: RATE, channels: [ramp(200_000, 2500)] });
  const lanes = { result: { reader: result }, quieter: { reader: other, gain: 0.5 } };
  player.load({ source, sourceGain: 0.25, cut, lanes, sampleRate: RATE });
  player.toggle();
  await pass(0.2);
  const gains = () => (contexts[0]?.gains ?? []).map(({ gain }) => gain.value);
  const scheduled = pieces.length;
  expect(gains()).toEqual([1, 0, 1, 0]);
  player.listen('quieter');
  expect(gains()).toEqual([1, 0, 0, 0.5]);
  player.listen('source');
  expect(gains()).toEqual([1, 0.25, 0, 0]);
  expect(pieces).toHaveLength(scheduled);
  // What is not there any more gives way to the result.
  player.listen('gone');
  expect(gains()).toEqual([1, 0, 1, 0]);
  player.close();
});

describe('listening to a part', () => {
  test('the end of a cut is played to its last frame and no further', async () => {
    const player = load();
    player.playFrom(3000);
    await pass(2);
    expect(heard('result').slice(0, 400)).toEqual([...ramp(102_000, 400)]);
    expect(heard('source')).toEqual([...ramp(3000, 500)]);
    expect(player.store.getState()).toMatchObject({ playing: false, position: 1000 });
  });

  test('in a loop the seam is in the middle', async () => {
    const player = load();
    player.setLoop(true);
    player.playFrom(3000);
    await pass(1);
    // The result is 2 400 frames long: 400 to its end, and then its start.
    expect(heard('result').slice(0, 800)).toEqual([...ramp(102_000, 400), ...ramp(100_000, 400)]);
    player.close();
  });

  test('the volume holds for what is playing and for what comes', async () => {
    const player = load();
    player.setVolume(0.25);
    player.playFrom(1000);
    await pass(0.1);
    const [output] = contexts[0]?.gains ?? [];
    expect(output?.gain.value).toBe(0.25);
    player.setVolume(0.5);
    expect(output?.gain.value).toBe(0.5);
    player.close();
  });
});
