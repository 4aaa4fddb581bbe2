/** Some frames of every channel. Not to be written to: it may be part of the source. */
export type Block = readonly Float32Array[];

/** Sound that can be gone through again and again, block by block, each time from its start. */
export type Passage = () => AsyncIterable<Block>;

/** Sound passing through a station block by block. */
export interface BlockProcess {
  push(block: Block): Block;
  /** Ends the input; what was still held back. */
  finish(): Block;
}

/** A part of a station's work. Made anew for each render, so it may remember what it was shown. */
export interface Step {
  /** Where something must be known of the whole sound first: is shown all that comes, block by block. */
  survey?(block: Block): void;
  /** Begins a passage. Comes after the survey, where there is one; may come again for another passage. */
  start(): BlockProcess;
}

const hasFrames = (block: Block): boolean => (block[0]?.length ?? 0) > 0;

/** The sound that comes out of a step. */
export const through = (sound: Passage, step: Step): Passage =>
  async function* () {
    const process = step.start();
    for await (const block of sound()) {
      const out = process.push(block);
      if (hasFrames(out)) yield out;
    }
    const rest = process.finish();
    if (hasFrames(rest)) yield rest;
  };

/** The same sound, kept in memory when it is gone through for the first time. */
export function kept(sound: Passage): Passage {
  let blocks: Block[] | null = null;
  return async function* () {
    if (blocks) {
      yield* blocks;
      return;
    }
    const gathered: Block[] = [];
    for await (const block of sound()) {
      gathered.push(block);
      yield block;
    }
    blocks = gathered;
  };
}
