import type { Work } from '../audio/index.ts';
import { type ByteFile, crc32, piecesOf } from '../bytes/index.ts';
import { type Block, ByteSums, type Rendering } from '../chain/index.ts';
import type { Reading } from '../containers/index.ts';
import { type Facts, plainStream, readPlain, surveyStream } from '../facts/index.ts';

/** What was found in a file of plain samples when it was read again. */
export interface ReadBack {
  readonly facts: Facts;
  /** Checksum of the encoded samples. */
  readonly dataSum: number;
  readonly byteSums: Readonly<Pick<ByteSums, 'head' | 'behindHead' | 'size'>>;
}

/** Checksums of all bytes that can be read. */
export async function sumsOf(file: ByteFile, work: Work): Promise<ByteSums> {
  const sums = new ByteSums();
  for (const piece of piecesOf(file)) {
    await work.check();
    sums.add(piece);
  }
  return sums;
}

/**
 * Reads a file as any reader would. The sound comes first, from its start to its end, so that this can go on while the file
 * is being written.
 * @param reading what headerless bytes are
 * @param hear shown the sound, block by block
 * @throws InputError if nobody could read it
 */
export async function readBack(
  file: ByteFile,
  reading: Reading,
  work: Work,
  hear: (block: Block) => Promise<void>,
): Promise<ReadBack> {
  const sound = readPlain(file, reading);
  const facts = await surveyStream(plainStream(sound, file.size), async (block) => {
    await work.check();
    await hear(block);
  });
  let dataSum = 0;
  for (const piece of piecesOf(sound.data)) {
    await work.check();
    dataSum = crc32(piece, dataSum);
  }
  return { facts: { ...facts, certainty: 'written' }, dataSum, byteSums: await sumsOf(file, work) };
}

/** Refuses a file in which something else was found than was written. */
export function proveSame({ facts, dataSum, byteSums }: ReadBack, { reading, report, ...written }: Rendering): void {
  proveBytes(byteSums, written.byteSums);
  const same =
    facts.encoding === reading.encoding &&
    facts.sampleRate === reading.sampleRate &&
    facts.channels === reading.channels &&
    facts.frames === report.frames &&
    dataSum === written.dataSum;
  if (!same) throw new Error(`the finished ${facts.container} file does not read back as it was written`);
}

/**
 * Refuses bytes that are not those that were written: changed, lost, doubled or cut off.
 * @param isAmended true if the first bytes were changed afterwards, and what they say is proved elsewhere
 */
export function proveBytes(found: ReadBack['byteSums'], written: ReadBack['byteSums'], isAmended = false): void {
  const isSame = found.behindHead === written.behindHead && (isAmended || found.head === written.head);
  if (found.size !== written.size || !isSame) throw new Error('the finished file is not what was written');
}
