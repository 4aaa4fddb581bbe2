import { automaticSettings, settle, targets } from '@tambur/core';
import { beforeEach, expect, test, vi } from 'vitest';
import { sourceOf } from '../fixtures/views.ts';
import type { Cut } from './cut.ts';
import { Pieces } from './pieces.ts';

/** Starts of the pieces that the worker was asked for; it answers when it is told to. */
const asked = vi.hoisted(() => ({ starts: [] as number[], answers: [] as (() => void)[] }));
vi.mock('./workers/workers.ts', () => ({
  pieceWorker: {
    run: (call: (remote: unknown) => unknown) =>
      call({
        piece: (_source: unknown, _chain: unknown, { start, end }: Cut) => {
          asked.starts.push(start);
          const heard = {
            sampleRate: 44_100,
            channels: [Float32Array.from({ length: end - start }, (_, i) => start + i)],
          };
          return new Promise((resolve) => asked.answers.push(() => resolve({ heard })));
        },
      }),
  },
}));

const source = sourceOf('long', 60);
const target = targets.find(({ id }) => id === 'archive-copy');
if (!target) throw new Error('no such sheet');
const chain = settle({ facts: source.facts, settings: automaticSettings('long'), target });
/** Of what a library compresses. */
const PIECE = 44_100;
const askedFor = (...starts: number[]) => expect.poll(() => [...asked.starts]).toEqual(starts);

beforeEach(() => {
  asked.starts.length = 0;
  asked.answers.length = 0;
});

test('pieces are made one after the other, each once, and join where one ends', async () => {
  const pieces = new Pieces(source, chain);
  pieces.hold();
  const read = pieces.reader().read(PIECE - 2, 5);
  void pieces.at(0);
  await askedFor(0);
  asked.answers.shift()?.();
  await askedFor(0, PIECE);
  asked.answers.shift()?.();
  expect((await read)[0]).toEqual(Float32Array.of(PIECE - 2, PIECE - 1, PIECE, PIECE + 1, PIECE + 2));
});

test('what nobody holds any more is not begun, and made when it is wanted again', async () => {
  const [first, dropped, last] = [0, 1, 2].map(() => new Pieces(source, chain));
  const release = [first, dropped, last].map((each) => each?.hold());
  const outcomes = [first?.at(0), dropped?.at(1), last?.at(2)];
  await askedFor(0);
  release[1]?.();
  asked.answers.shift()?.();
  await askedFor(0, 2 * PIECE);
  expect(await outcomes[1]).toHaveProperty('refused');
  asked.answers.shift()?.();
  dropped?.hold();
  void dropped?.at(1);
  await askedFor(0, 2 * PIECE, PIECE);
  asked.answers.shift()?.();
});
