import { describe, expect, test, vi } from 'vitest';
import { WORK_FRAMES } from '../audio/index.ts';
import { type Block, type BlockProcess, eachBlock, kept, type Passage, through } from './passage.ts';

const block = (...values: number[]): Block => [Float32Array.from(values)];

/** A sound of two blocks that counts how often it is read through. */
function counted() {
  let passages = 0;
  async function* blocks() {
    passages++;
    yield block(1, 2);
    yield block(3);
  }
  const sound: Passage = () => ({ blocks: blocks(), measured: () => ({ gainDb: 2 }) });
  return { sound, passages: () => passages };
}

const all = async (sound: Passage) => {
  const out: number[] = [];
  for await (const [samples] of sound().blocks) out.push(...samples);
  return out;
};

describe('sound that can be gone through again', () => {
  test('a step begins anew with each passage, and gives what it held back', async () => {
    const { sound } = counted();
    const start = vi.fn((): BlockProcess => {
      let last = 0;
      return {
        push: ([samples]) => {
          const out = Float32Array.from([last, ...samples.subarray(0, -1)]);
          last = samples[samples.length - 1];
          return [[out]];
        },
        finish: () => [block(last)],
      };
    });
    const later = through(sound, { start });
    expect(await all(later)).toEqual([0, 1, 2, 3]);
    expect(await all(later)).toEqual([0, 1, 2, 3]);
    expect(start).toHaveBeenCalledTimes(2);
  });

  test('empty blocks are not passed on, long ones in pieces', async () => {
    const { sound } = counted();
    const frames = 2 * WORK_FRAMES + 5;
    const finish = () => [[new Float32Array(frames).fill(1)]];
    const sizes: number[] = [];
    for await (const [samples] of through(sound, { start: () => ({ push: () => [[], block()], finish }) })().blocks) {
      sizes.push(samples.length);
    }
    expect(sizes).toEqual([WORK_FRAMES, WORK_FRAMES, 5]);
  });

  test('what is kept is made once, unless the first passage breaks off', async () => {
    const { sound, passages } = counted();
    const again = kept(sound);
    for await (const _ of again().blocks) break;
    expect(await all(again)).toEqual([1, 2, 3]);
    expect(await all(again)).toEqual([1, 2, 3]);
    expect(passages()).toBe(2);
  });

  test('what each step measured comes together, kept or not', async () => {
    const { sound } = counted();
    const counting = () => {
      let clippedFrames = 0;
      const count = (each: Block) => {
        clippedFrames += each[0].length;
        return each;
      };
      return { ...eachBlock(count), measured: () => ({ clippedFrames }) };
    };
    const again = kept(through(sound, { start: counting }));
    for (let time = 0; time < 2; time++) {
      const pass = again();
      for await (const _ of pass.blocks);
      expect(pass.measured()).toEqual({ gainDb: 2, clippedFrames: 3 });
    }
  });
});
