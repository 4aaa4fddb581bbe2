import { levelsOf, type PcmReader, portionOf, type Work } from '../audio/index.ts';
import type { ByteFile } from '../bytes/index.ts';
import {
  type Block,
  type Chain,
  type FileStore,
  levelsSum,
  memoryStore,
  type OpenEncoder,
  type Rendering,
  type RenderOptions,
  type RenderReport,
  render,
} from '../chain/index.ts';
import { type Reading, wholeIn } from '../containers/index.ts';
import { findCompressed } from '../encodings/index.ts';
import { type Facts, type SoundStream, surveyStream } from '../facts/index.ts';
import { checkFile, checkReport, type Finding } from '../findings/index.ts';
import { folderOf } from '../targets/index.ts';
import { SoundProof } from './proof.ts';
import { proveBytes, proveSame, type ReadBack, readBack, sumsOf } from './read-back.ts';

/** One finished file with its proof. */
export interface MadeClip {
  /** The finished bytes. */
  readonly file: ByteFile;
  readonly report: RenderReport;
  /** Of the finished bytes, read again. */
  readonly facts: Facts;
  readonly findings: readonly Finding[];
}

/** Encoders and readers that core does not have itself; the caller passes them in. */
export interface Library {
  readonly openEncoder: OpenEncoder;
  /** A finished file as anybody's reader sees it. */
  read(file: ByteFile): Promise<SoundStream>;
  /** The same file, read by other means: what it says of itself. */
  readAgain(file: ByteFile, work: Work): Promise<SecondReading>;
}

/** What a second reader found in a file. */
export interface SecondReading {
  readonly encoding: string;
  /** Hz. */
  readonly sampleRate: number;
  readonly channels: number;
  readonly frames: number;
}

export interface MakeOptions extends Omit<RenderOptions, 'openEncoder'> {
  readonly library?: Library;
  /** Where the file goes; by default into memory. */
  readonly store?: FileStore;
  /** Shown the sound of the finished file, block by block, as it is read again. */
  readonly hear?: (block: Block) => void | Promise<void>;
  /** Of plain samples: what somebody else found, who has been reading the file again while it was written. */
  readonly readBeside?: () => Promise<ReadBack>;
}

/** How much of the work is making the file; the rest is reading it again. */
const MAKING = 0.75;

/**
 * The whole way for one clip whose chain is settled: render, read the finished bytes again, check them against the sheet.
 * The page, the server and the command line all call this, which is why they give the same bytes.
 * @param source the sound that `chain.order.facts` are of
 * @throws InputError if a setting cannot be carried out
 * @throws Cancelled if the work is not wanted any more
 */
export async function makeClip(
  chain: Chain,
  source: PcmReader,
  work: Work,
  { store = memoryStore(), hear = () => undefined, library, readBeside, ...options }: MakeOptions = {},
): Promise<MadeClip> {
  const { order, stations, fileName } = chain;
  const rendered = await render(chain, source, store, portionOf(work, 0, MAKING), { ...options, ...library });
  const file = store.written();
  const reading = portionOf(work, MAKING, 1);
  let frames = 0;
  const heard = async (block: Block) => {
    await reading.check();
    await hear(block);
    frames += block[0].length;
    reading.progress(frames / rendered.report.frames);
  };
  let facts: Facts;
  if (stations.wrap.plan.compressed) {
    const isAmended = stations.depth.plan.bits !== null;
    proveBytes(await sumsOf(file, reading), rendered.byteSums, isAmended);
    facts = await readLibraryFile(file, rendered, chain, library, heard, reading);
  } else {
    const found = await (readBeside?.() ?? readBack(file, rendered.reading, reading, heard));
    proveSame(found, rendered);
    facts = found.facts;
  }
  work.progress(1);
  const { report } = rendered;
  const more = { folder: folderOf(order.target), sourceTags: order.facts.tags };
  const findings = [...checkFile(order.target, facts, fileName, more), ...checkReport(report)];
  return { file, report, facts, findings };
}

/** Takes a block of the finished file's sound as it is read again. */
type Hear = (block: Block) => Promise<void>;

/** Frames by which a second reader may count otherwise: it sees packets, not what is cut off their ends. */
const MOST_PACKET_FRAMES = 8192;

/**
 * Reads a library's file again and proves that it holds what was ordered, and its sound. Where sound is lost, a second reader that
 * shares nothing with the first must find the same.
 */
async function readLibraryFile(
  file: ByteFile,
  rendered: Rendering,
  chain: Chain,
  library: Library | undefined,
  hear: Hear,
  work: Work,
): Promise<Facts> {
  if (!library) throw new RangeError('no reader of the finished file was passed in');
  const { reading, report, dataSum } = rendered;
  const { bitRate = 0, infoFrame } = chain.stations.wrap.plan.compressed ?? {};
  const unstated = findCompressed(reading.encoding)?.unstated;
  const { bits } = chain.stations.depth.plan;
  const proof = bits === null ? new SoundProof(rendered.sound().blocks, { ...reading, bitRate }) : null;
  let levels = 0;
  // Without a word on the encoder's delay the sound comes so much later.
  let early = unstated && !infoFrame ? unstated.delay : 0;
  const compare = async (block: Block) => {
    await hear(block);
    if (bits !== null) {
      levels = levelsSum(
        block.map((samples) => levelsOf(samples, bits)),
        levels,
      );
    }
    const skipped = Math.min(early, block[0].length);
    early -= skipped;
    await proof?.add(skipped ? block.map((samples) => samples.subarray(skipped)) : block);
  };
  const facts = await surveyStream(await library.read(file), compare).finally(() => proof?.close());
  // Where whole numbers are kept, each of them has been compared. In an array only a compiler sees the file.
  const second = bits === null ? await library.readAgain(wholeIn(file)?.file ?? file, work) : facts;
  const isSame = ({ encoding, sampleRate, channels }: Reading | Facts | SecondReading) =>
    encoding === reading.encoding && sampleRate === reading.sampleRate && channels === reading.channels;
  const over = facts.frames - report.frames;
  const isLong = over >= 0 && over <= (unstated?.most ?? 0);
  const isNear = Math.abs(second.frames - report.frames) <= MOST_PACKET_FRAMES;
  if (!isSame(facts) || !isSame(second) || !isLong || !isNear) {
    throw new Error(
      `the finished ${facts.container} file does not read back as it was written: ${JSON.stringify([reading, report.frames, facts.sampleRate, facts.channels, facts.frames, second])}`,
    );
  }
  const trouble = bits === null ? proof?.verdict() : levels === dataSum ? null : 'its samples are not what was encoded';
  if (trouble || facts.warnings.length) {
    throw new Error(
      `the finished ${facts.container} file does not sound as it should: ${trouble ?? facts.warnings.join(' ')}`,
    );
  }
  return { ...facts, certainty: 'written' };
}
