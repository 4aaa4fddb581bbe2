// Decodes a file, and hands its sound over block by block, no more than a few ahead.
import { parentPort, workerData } from 'node:worker_threads';
import { openSourceStream } from '@tambur/codecs';
import { InputError } from '@tambur/core';
import { openDiskFile } from '@tambur/disk';
import type { Decoding, Handed } from './decoded-beside.ts';

/** Blocks that may wait to be taken. */
const MOST_AHEAD = 8;

const { path, options } = workerData as Decoding;
let ahead = 0;
let goOn: () => void = () => undefined;
parentPort?.on('message', () => {
  ahead--;
  goOn();
});
const hand = (what: Handed, memory: readonly ArrayBufferLike[] = []) =>
  parentPort?.postMessage(what, memory as ArrayBuffer[]);

const file = openDiskFile(path);
try {
  const { blocks, laterWarnings } = await openSourceStream(file, options);
  let frames = 0;
  for await (const block of blocks()) {
    while (ahead >= MOST_AHEAD) await new Promise<void>((resolve) => (goOn = resolve));
    ahead++;
    frames += block[0]?.length ?? 0;
    // The decoder uses its memory again.
    const own = block.map((samples) => samples.slice());
    hand(
      { block: own },
      own.map(({ buffer }) => buffer),
    );
  }
  hand({ warnings: laterWarnings?.(frames) ?? [] });
} catch (error) {
  if (!(error instanceof InputError)) throw error;
  hand({ refused: [error.code, error.message] });
} finally {
  file.close();
  parentPort?.close();
}
