import { type PcmReader, portionOf, requireFinite, WORK_FRAMES, type Work, workBlocks } from '../audio/index.ts';
import { crc32, Room } from '../bytes/index.ts';
import type { Reading } from '../containers/index.ts';
import { InputError } from '../words/index.ts';
import { type Chain, formatOf } from './chain.ts';
import type { FileStore } from './file-store.ts';
import type { OpenEncoder } from './library.ts';
import { type FileMaker, openFileMaker } from './makers/index.ts';
import { type Block, kept, type Pass, type Passage, type Stages, type Step, through } from './passage.ts';
import type { RenderReport } from './report.ts';
import { stationIds, stations } from './settings.ts';
import type { Format } from './station.ts';
import { fileTooLarge } from './stations/ends.ts';

/** What was made, and what was measured on the way. */
export interface Rendering {
  readonly report: RenderReport;
  /** What the bytes are, for whoever reads them back. */
  readonly reading: Reading;
  /** Checksum of what a reader must find again, as the maker of the file says it. */
  readonly dataSum: FileMaker['dataSum'];
  /** Checksums of all bytes as they were handed to the store, before any was amended. */
  readonly byteSums: ByteSums;
  /** The sound as it came to the encoder, once more from its start. */
  readonly sound: Passage;
}

/** Amendments touch the first bytes of a file alone, so those after them have a sum of their own. */
export const AMENDED_BYTES = 64;

/** Checksums of a file's bytes: of the first ones, and of those after them. */
export class ByteSums {
  head = 0;
  behindHead = 0;
  size = 0;

  add(bytes: Uint8Array): void {
    const inHead = Math.max(0, AMENDED_BYTES - this.size);
    this.head = crc32(bytes.subarray(0, inHead), this.head);
    this.behindHead = crc32(bytes.subarray(inHead), this.behindHead);
    this.size += bytes.length;
  }
}

export interface RenderOptions {
  /** Encodes what core does not encode itself. */
  readonly openEncoder?: OpenEncoder;
  /** Samples of the sound at its new rate that are kept while it is looked at; a longer one is made again. */
  readonly mostKept?: number;
  /** What was made for an earlier render of the same source; it has to be another for another source. */
  readonly stages?: Stages;
}

/** 128 MB. */
const MOST_KEPT = 32_000_000;

/** Where nothing is measured. */
const UNMEASURED: Omit<RenderReport, 'frames'> = {
  peakBefore: 0,
  gainDb: 0,
  headroomDb: null,
  limited: null,
  trimmed: null,
  loop: null,
  clippedFrames: 0,
  signalToNoiseDb: null,
  rangeUsed: null,
};

/**
 * Sends the source's sound through the chain and writes the finished file. Everything works block by block. What a
 * station must know of the whole sound it is shown in a passage of its own before. Same chain, same sound, same bytes.
 * @throws InputError if the chain cannot be carried out
 * @throws Cancelled if the work is not wanted any more
 */
export async function render(
  chain: Chain,
  source: PcmReader,
  store: FileStore,
  work: Work,
  { openEncoder, mostKept = MOST_KEPT, stages }: RenderOptions = {},
): Promise<Rendering> {
  const { cut, channels, rate, ends, wrap } = chain.stations;
  const trouble = fileTooLarge(ends.plan.frames, {
    cut: cut.plan,
    channels: channels.plan,
    rate: rate.plan,
    wrap: wrap.plan,
  });
  if (trouble !== null) throw new InputError('too-large', trouble);

  const { facts } = chain.order;
  let format: Format = { sampleRate: facts.sampleRate, channels: facts.channels };
  const steps: Step[] = [];
  /** So many steps bring the sound to its new rate. */
  let atNewRate = 0;
  const plans = stationIds.slice(0, stationIds.indexOf('rate') + 1).map((id) => chain.stations[id].plan);
  for (const id of stationIds) {
    steps.push(...stations[id].stepsIn(chain.stations, format));
    format = stations[id].formatIn(chain.stations, format);
    if (id === 'rate') atNewRate = steps.length;
  }
  const passes = 1 + steps.filter((step) => step.survey).length;
  const passWork = (pass: number) => portionOf(work, pass / passes, (pass + 1) / passes);
  const fits = ends.plan.incoming * format.channels <= mostKept;
  let sound = cutOf(source, chain, work);
  let surveys = 0;
  for (const [i, step] of steps.entries()) {
    const isStage = i === atNewRate && stages !== undefined && fits;
    if (isStage) sound = stages.keep(JSON.stringify(plans), sound);
    if (step.survey) {
      if (fits && surveys === 0 && !isStage) sound = kept(sound);
      const { survey } = step;
      await goThrough(sound(), ends.plan.incoming, passWork(surveys++), (block) => survey(block));
    }
    sound = through(sound, step);
  }

  const pass = sound();
  const frames = pass.measured().frames ?? ends.plan.frames;
  const maker = await openFileMaker(chain, format, frames, openEncoder);
  if (maker.size !== undefined) store.expect?.(maker.size);
  const byteSums = new ByteSums();
  const write = (bytes: Uint8Array) => {
    byteSums.add(bytes);
    return store.write(bytes);
  };
  try {
    const make = async (block: Block) => write(await maker.push(block));
    const came = await goThrough(pass, frames, passWork(surveys), make, maker.framesAtOnce);
    if (came === 0) throw new InputError('no-frames', 'The cut holds no sound; make it longer.');
    if (came !== frames) throw new Error(`${came} frames arrived where ${frames} were announced`);
    await write(await maker.finish());
    for (const amendment of maker.amendments?.() ?? []) {
      if (amendment.at + amendment.bytes.length > AMENDED_BYTES) throw new RangeError('an amendment beyond the head');
      await store.amend(amendment);
    }
    const report = requireFinite({ frames, ...UNMEASURED, ...pass.measured(), ...maker.measured() });
    return { report, reading: readingOf(chain), dataSum: maker.dataSum, byteSums, sound };
  } finally {
    await maker.close?.();
  }
}

/** What the bytes of a chain's file are. */
export function readingOf(chain: Chain): Reading {
  const { sampleRate, channels } = formatOf(chain);
  return { encoding: chain.stations.wrap.plan.encoding, sampleRate: Math.round(sampleRate), channels };
}

/** Uses all of a sound, of so many frames, in blocks of at most `most`; gives how many there were. */
async function goThrough(
  { blocks }: Pass,
  frames: number,
  work: Work,
  use: (block: Block) => void | Promise<void>,
  most?: number,
): Promise<number> {
  let done = 0;
  for await (const block of blocks) {
    for (const part of workBlocks(block, most)) {
      await work.check();
      await use(part);
      done += part[0].length;
      work.progress(done / frames);
    }
  }
  work.progress(1);
  return done;
}

/** The source's cut, in blocks that stay short enough at the new rate too. */
function cutOf(source: PcmReader, { stations: { cut, rate } }: Chain, work: Work): Passage {
  const { start, end } = cut.plan;
  const room = new Room();
  const count = Math.max(1, Math.floor(WORK_FRAMES * Math.min(1, rate.plan.from / rate.plan.to)));
  async function* blocks() {
    for (let at = start; at < end; at += count) {
      await work.check();
      yield await source.read(at, Math.min(count, end - at), room);
    }
  }
  return () => ({ blocks: blocks(), measured: () => ({}) });
}
