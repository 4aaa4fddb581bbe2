import { describe, expect, test, vi } from 'vitest';
import { type Block, kept, type Passage, through } from './passage.ts';

const block = (...values: number[]): Block => [Float32Array.from(values)];

/** A sound of two blocks that counts how often it is gone through. */
function counted() {
  let passages = 0;
  const sound: Passage = async function* () {
    passages++;
    yield block(1, 2);
    yield block(3);
  };
  return { sound, passages: () => passages };
}

const all = async (sound: Passage) => {
  const out: number[] = [];
  for await (const [samples] of sound()) out.push(...samples);
  return out;
};

describe('sound that can be gone through again', () => {
  test('a step begins anew with each passage, and gives what it held back', async () => {
    const { sound } = counted();
    const start = vi.fn(() => {
      let last = 0;
      return {
        push: ([samples]: Block) => {
          const out = Float32Array.from([last, ...samples.subarray(0, -1)]);
          last = samples[samples.length - 1];
          return [out];
        },
        finish: () => block(last),
      };
    });
    const later = through(sound, { start });
    expect(await all(later)).toEqual([0, 1, 2, 3]);
    expect(await all(later)).toEqual([0, 1, 2, 3]);
    expect(start).toHaveBeenCalledTimes(2);
  });

  test('empty blocks are not passed on', async () => {
    const { sound } = counted();
    const blocks: Block[] = [];
    for await (const found of through(sound, { start: () => ({ push: () => [], finish: () => block() }) })()) {
      blocks.push(found);
    }
    expect(blocks).toEqual([]);
  });

  test('what is kept is made once, unless the first passage breaks off', async () => {
    const { sound, passages } = counted();
    const again = kept(sound);
    for await (const _ of again()) break;
    expect(await all(again)).toEqual([1, 2, 3]);
    expect(await all(again)).toEqual([1, 2, 3]);
    expect(passages()).toBe(2);
  });
});
