/** At most so many frames are worked on between two looks at whether the work is still wanted. */
export const WORK_FRAMES = 65_536;

/** The same frames, channel by channel, in blocks of at most `most`; none where there are no frames. */
export function* workBlocks(block: readonly Float32Array[], most = WORK_FRAMES): Iterable<readonly Float32Array[]> {
  const frames = block[0]?.length ?? 0;
  if (frames > 0 && frames <= most) yield block;
  else for (let at = 0; at < frames; at += most) yield block.map((samples) => samples.subarray(at, at + most));
}

/** A piece of work as whoever waits for it sees it. */
export interface Work {
  /**
   * Called at least every `WORK_FRAMES` frames. May let other things happen first.
   * @throws Cancelled if the work is not wanted any more
   */
  check(): void | Promise<void>;
  /** Told how much is done, from 0 to 1; never less than before. */
  progress(part: number): void;
}

/** Thrown where a work was not wanted any more. What it had opened is closed, what it had begun is to be thrown away. */
export class Cancelled extends Error {
  override readonly name = 'Cancelled';

  constructor() {
    super('The work was cancelled.');
  }
}

/** Nobody waits: the work is done to its end. */
export const unwatched: Work = { check: () => undefined, progress: () => undefined };

/** The part of a work between `from` and `to`, 0..1 each, as a work of its own. */
export const portionOf = (work: Work, from: number, to: number): Work => ({
  check: () => work.check(),
  progress: (part) => work.progress(from + (to - from) * Math.min(1, part)),
});
