import { workBlocks } from '../audio/index.ts';
import type { Measurements } from './report.ts';

/** Some frames of every channel, until the next are asked for. Not to be written to: it may be part of the source. */
export type Block = readonly Float32Array[];

/** A sound on its way, block by block, from its start to its end. */
export interface Pass {
  /** No block is longer than `WORK_FRAMES`. */
  readonly blocks: AsyncIterable<Block>;
  /** What has been measured on the way so far; all of it when the last block has come. */
  measured(): Measurements;
}

/** Sound that can be run through again and again, each time from its start. */
export type Passage = () => Pass;

/** Sound passing through a station block by block. */
export interface BlockProcess {
  push(block: Block): Iterable<Block>;
  /** Ends the input; what was still held back. */
  finish?(): Iterable<Block>;
  /** What this passage measured, as far as it has come. */
  measured?(): Measurements;
}

/** A part of a station's work. Made new for each render, so it may remember what it was shown. */
export interface Step {
  /** Where something must be known of the whole sound first: is shown all that comes, block by block. */
  survey?(block: Block): void;
  /** Begins a passage. Comes after the survey, where there is one; may come again for another passage. */
  start(): BlockProcess;
}

/** A step that changes each block on its own. */
export const eachBlock = (change: (block: Block) => Block): BlockProcess => ({ push: (block) => [change(block)] });

/** The sound that comes out of a step. */
export const through =
  (sound: Passage, step: Step): Passage =>
  () => {
    const before = sound();
    const process = step.start();
    async function* blocks() {
      for await (const block of before.blocks) {
        for (const out of process.push(block)) yield* workBlocks(out);
      }
      for (const out of process.finish?.() ?? []) yield* workBlocks(out);
    }
    return { blocks: blocks(), measured: () => ({ ...before.measured(), ...process.measured?.() }) };
  };

/** A passage that is kept once it has been read through. */
export interface KeptPassage extends Passage {
  /** True from then on: it needs what it was made of no more. */
  isWhole(): boolean;
}

/** The same sound, kept in memory when it is read through for the first time. */
export function kept(sound: Passage): KeptPassage {
  let known: { readonly blocks: readonly Block[]; readonly measured: Measurements } | null = null;
  async function* again(blocks: readonly Block[]) {
    yield* blocks;
  }
  const passage = (): Pass => {
    if (known) {
      const { blocks, measured } = known;
      return { blocks: again(blocks), measured: () => measured };
    }
    const pass = sound();
    async function* gathering() {
      const blocks: Block[] = [];
      for await (const block of pass.blocks) {
        // Where nothing has changed it, it is the source's own, which may use its memory again.
        const own = block.map((samples) => samples.slice());
        blocks.push(own);
        yield own;
      }
      known = { blocks, measured: pass.measured() };
    }
    return { blocks: gathering(), measured: () => pass.measured() };
  };
  return Object.assign(passage, { isWhole: () => known !== null });
}

/**
 * Remembers the sound at its new rate from one render to the next, for whoever changes what comes after it: then cut,
 * channels and rate are not worked through again. One sound at a time.
 */
export class Stages {
  private last: { readonly key: string; readonly sound: KeptPassage } | null = null;

  /** The sound that was made so before, or this one, kept as it is read. */
  keep(key: string, sound: Passage): Passage {
    if (this.last?.key === key && this.last.sound.isWhole()) return this.last.sound;
    this.last = { key, sound: kept(sound) };
    return this.last.sound;
  }
}
