import {
  type ByteFile,
  concatenated,
  crc32,
  InputError,
  inMemory,
  type PcmReader,
  requireFinite,
} from '../audio/index.ts';
import type { Reading } from '../containers/index.ts';
import { type FileMaker, openFileMaker } from './file-maker.ts';
import type { Chain } from './fit.ts';
import type { Amendment, OpenEncoder } from './library.ts';
import { kept, type Passage, type Step, through } from './passage.ts';
import { type StationId, stationIds, stations } from './settings.ts';
import type { Format, RenderReport, Station } from './station.ts';
import { fileTooLarge } from './stations/ends.ts';

/** Where the bytes of a finished file go, piece by piece. */
export interface FileStore {
  write(bytes: Uint8Array): void | Promise<void>;
  /** Puts other bytes in the place of some that were written. */
  amend(amendment: Amendment): void | Promise<void>;
  /** Everything that was written, to be read again. Asked for once, at the end. */
  written(): ByteFile;
}

/** Keeps the file in memory. */
export function memoryStore(): FileStore {
  const parts: Uint8Array[] = [];
  const amendments: Amendment[] = [];
  return {
    write: (bytes) => void parts.push(bytes),
    amend: (amendment) => void amendments.push(amendment),
    written() {
      const all = concatenated(parts);
      for (const { at, bytes } of amendments) all.set(bytes, at);
      return inMemory(all);
    },
  };
}

/** What was made, and what was measured on the way. */
export interface Rendered {
  readonly report: Readonly<RenderReport>;
  /** What the bytes are, for whoever reads them back. */
  readonly reading: Reading;
  /**
   * Check sum of what a reader must find again: the encoded samples as they stand in the file; the whole numbers, where a
   * library keeps those; null where it keeps none.
   */
  readonly dataSum: number | null;
  /** Check sums of all bytes as they were handed to the store, before any was amended. */
  readonly byteSums: ByteSums;
  /** The sound as it came to the encoder, once more from its start. */
  readonly sound: Passage;
}

/** Amendments touch the first bytes of a file alone, so those behind them have a sum of their own. */
export const AMENDED_BYTES = 64;

/** Check sums of a file's bytes: of the first ones, and of those behind them. */
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
  /** The file's name without its extension. */
  readonly stem: string;
  /** Asked between blocks; true ends the work with a `RenderCancelled`. */
  readonly isCancelled?: () => boolean;
  /** Told between blocks how much of the work is done, 0..1. */
  readonly onProgress?: (done: number) => void;
  /** Encodes what core does not encode itself. */
  readonly openEncoder?: OpenEncoder;
  /** Samples of the sound at its new rate that are kept while it is looked at; a longer one is made again. */
  readonly mostKept?: number;
}

/** Thrown where `isCancelled` ended the work. */
export class RenderCancelled extends Error {
  override readonly name = 'RenderCancelled';
}

/** Frames of the source read at a time. */
const BLOCK = 65_536;

/** 128 MB. */
const MOST_KEPT = 32_000_000;

/**
 * Sends the source's sound through the chain and writes the finished file. Everything works block by block. What a
 * station must know of the whole sound it is shown in a passage of its own before. Same chain, same sound, same bytes.
 */
export async function render(
  chain: Chain,
  source: PcmReader,
  store: FileStore,
  options: RenderOptions,
): Promise<Rendered> {
  const { cut, channels, rate, ends, wrap } = chain.stations;
  const format: Format = { sampleRate: rate.plan.to, channels: channels.plan.matrix.length };
  const report: RenderReport = {
    frames: ends.plan.frames,
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
  const trouble = fileTooLarge(ends.plan.frames, {
    cut: cut.plan,
    channels: channels.plan,
    rate: rate.plan,
    wrap: wrap.plan,
  });
  if (trouble !== null) throw new InputError('too-large', trouble);
  const steps = stationIds.flatMap((id) => stepsOf(chain, id, format, report));
  const surveys = steps.filter((step) => step.survey).length;
  const fits = ends.plan.incoming * format.channels <= (options.mostKept ?? MOST_KEPT);
  let sound = cutOf(source, cut.plan, fits ? 1 : 1 + surveys, options);
  let isKept = false;
  for (const step of steps) {
    if (step.survey) {
      if (fits && !isKept) sound = kept(sound);
      isKept = true;
      for await (const block of sound()) step.survey(block);
    }
    sound = through(sound, step);
  }

  const byteSums = new ByteSums();
  const write = (bytes: Uint8Array) => {
    byteSums.add(bytes);
    return store.write(bytes);
  };
  let maker: FileMaker | null = null;
  let frames = 0;
  for await (const block of sound()) {
    maker ??= await openFileMaker(chain, format, report.frames, options.stem, options.openEncoder);
    frames += block[0].length;
    await write(await maker.push(block));
  }
  if (!maker) throw new InputError('no-frames', 'The cut holds no sound; make it longer.');
  if (frames !== report.frames) throw new Error(`${frames} frames came where ${report.frames} were announced`);
  await write(await maker.finish());
  for (const amendment of maker.amendments()) {
    if (amendment.at + amendment.bytes.length > AMENDED_BYTES) throw new RangeError('an amendment behind the head');
    await store.amend(amendment);
  }
  maker.report(report);
  const reading = {
    encoding: wrap.plan.encoding,
    sampleRate: Math.round(rate.plan.to),
    channels: format.channels,
  };
  // What is gone through again must not change what has been reported.
  return { report: requireFinite({ ...report }), reading, dataSum: maker.dataSum, byteSums, sound };
}

function stepsOf(chain: Chain, id: StationId, format: Format, report: RenderReport): readonly Step[] {
  const station = stations[id] as Station<unknown, unknown>;
  return station.steps?.(chain.stations[id].plan, format, report) ?? [];
}

/** The source's cut, block by block, each time from its start; `passages` times in all, as far as progress is told. */
function cutOf(
  source: PcmReader,
  { start, end }: { readonly start: number; readonly end: number },
  passages: number,
  { isCancelled, onProgress }: RenderOptions,
): Passage {
  let passage = 0;
  return async function* () {
    const before = passage++;
    for (let at = start; at < end; at += BLOCK) {
      if (isCancelled?.()) throw new RenderCancelled();
      yield await source.read(at, Math.min(BLOCK, end - at));
      const done = (Math.min(end, at + BLOCK) - start) / (end - start);
      onProgress?.(Math.min(1, (before + done) / passages));
    }
  };
}
