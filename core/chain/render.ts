import {
  type ByteFile,
  concatenated,
  crc32,
  deinterleave,
  InputError,
  inMemory,
  interleave,
  type PcmReader,
} from '../audio/index.ts';
import { containerOf, type FileWriter, type Reading } from '../containers/index.ts';
import { Quantiser } from '../dsp/index.ts';
import { type Encoding, encodingOf } from '../encodings/index.ts';
import type { Chain } from './fit.ts';
import { type Block, kept, type Passage, type Step, through } from './passage.ts';
import { type StationId, stationIds, stations } from './settings.ts';
import type { Format, RenderReport, Station } from './station.ts';

/** Where the bytes of a finished file go, piece by piece. */
export interface FileStore {
  write(bytes: Uint8Array): void | Promise<void>;
  /** Everything that was written, to be read again. Asked for once, at the end. */
  written(): ByteFile;
}

/** Keeps the file in memory. */
export function memoryStore(): FileStore {
  const parts: Uint8Array[] = [];
  return {
    write: (bytes) => void parts.push(bytes),
    written: () => inMemory(concatenated(parts)),
  };
}

/** What was made, and what was measured on the way. */
export interface Rendered {
  readonly report: Readonly<RenderReport>;
  /** What the bytes are, for whoever reads them back. */
  readonly reading: Reading;
  /** Check sum of the encoded samples as they stand in the file: what a reader must find again. */
  readonly dataSum: number;
}

export interface RenderOptions {
  /** The file's name without its extension. */
  readonly stem: string;
  /** Asked between blocks; true ends the work with a `RenderCancelled`. */
  readonly isCancelled?: () => boolean;
  /** Told between blocks how much of the work is done, 0..1. */
  readonly onProgress?: (done: number) => void;
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
  const steps = stationIds.flatMap((id) => stepsOf(chain, id, format, report));
  const surveys = steps.filter((step) => step.survey).length;
  const fits = ends.plan.incoming * format.channels <= (options.mostKept ?? MOST_KEPT);
  let sound = reading(source, cut.plan, fits ? 1 : 1 + surveys, options);
  let isKept = false;
  for (const step of steps) {
    if (step.survey) {
      if (fits && !isKept) sound = kept(sound);
      isKept = true;
      for await (const block of sound()) step.survey(block);
    }
    sound = through(sound, step);
  }

  const encoding = encodingOf(wrap.plan.encoding);
  const encoder = new Encoder(chain, encoding, format);
  const sampleRate = Math.round(rate.plan.to);
  let writer: FileWriter | null = null;
  let frames = 0;
  let dataSum = 0;
  for await (const block of sound()) {
    if (!writer) {
      writer = containerOf(wrap.plan.container).write({
        encoding,
        sampleRate,
        channels: format.channels,
        frames: report.frames,
        dataBytes: report.frames * format.channels * encoding.bytesPerSample,
        stem: options.stem,
        storageAttribute: wrap.plan.storageAttribute,
      });
      await store.write(writer.head);
    }
    const data = encoder.encode(block);
    frames += block[0].length;
    dataSum = crc32(data, dataSum);
    await store.write(writer.body(data));
  }
  if (!writer) throw new InputError('no-frames', 'The cut holds no sound; make it longer.');
  if (frames !== report.frames) throw new Error(`${frames} frames came where ${report.frames} were announced`);
  await store.write(writer.tail());
  encoder.report(report);
  return { report, reading: { encoding: encoding.id, sampleRate, channels: format.channels }, dataSum };
}

function stepsOf(chain: Chain, id: StationId, format: Format, report: RenderReport): readonly Step[] {
  const station = stations[id] as Station<unknown, unknown>;
  return station.steps?.(chain.stations[id].plan, format, report) ?? [];
}

/** The source's cut, block by block, each time from its start; `passages` times in all, as far as progress is told. */
function reading(
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

/** Rounds and encodes blocks, and measures what that costs. */
class Encoder {
  private readonly encoding: Encoding;
  private readonly quantiser: Quantiser | null;
  private readonly bits: number;
  private signal = 0;
  private noise = 0;
  private lowest = Number.POSITIVE_INFINITY;
  private highest = Number.NEGATIVE_INFINITY;

  constructor({ stations: { depth } }: Chain, encoding: Encoding, { sampleRate }: Format) {
    const { bits, ...rest } = depth.plan;
    this.encoding = encoding;
    this.bits = bits ?? 0;
    this.quantiser = bits === null ? null : new Quantiser({ bits, sampleRate, ...rest });
  }

  /** Samples of a block as bytes, frame by frame. */
  encode(block: Block): Uint8Array {
    const encoding = this.encoding;
    const quantiser = this.quantiser;
    const count = block.length * block[0].length;
    if (encoding.kind === 'float' || !quantiser) {
      if (encoding.kind !== 'float') throw new RangeError('whole-number encodings need a depth');
      return encoding.encode(interleave(block, new Float32Array(count)));
    }
    const levels = quantiser.push(block);
    const samples = interleave(levels, new Int32Array(count));
    const shift = encoding.linearBits - this.bits;
    if (shift) for (let i = 0; i < count; i++) samples[i] <<= shift;
    const data = encoding.encode(samples);
    const decoded = encoding.companded ? deinterleave(encoding.decode(data), block.length) : null;
    block.forEach((exact, channel) => {
      this.measure(exact, levels[channel], decoded?.[channel] ?? null);
    });
    return data;
  }

  private measure(exact: Float32Array, levels: Int32Array, decoded: Float32Array | null): void {
    const scale = 2 ** (this.bits - 1);
    // With one bit there is no level for silence: what it stands for lies half a level up.
    const offset = this.bits === 1 ? 0.5 : 0;
    let signal = 0;
    let noise = 0;
    let { lowest, highest } = this;
    for (let i = 0; i < exact.length; i++) {
      const level = levels[i];
      if (level < lowest) lowest = level;
      if (level > highest) highest = level;
      const error = (decoded ? decoded[i] : (level + offset) / scale) - exact[i];
      signal += exact[i] * exact[i];
      noise += error * error;
    }
    this.signal += signal;
    this.noise += noise;
    this.lowest = lowest;
    this.highest = highest;
  }

  report(report: RenderReport): void {
    if (!this.quantiser) return;
    report.clippedFrames = this.quantiser.clippedFrames;
    report.signalToNoiseDb = this.signal > 0 && this.noise > 0 ? 10 * Math.log10(this.signal / this.noise) : null;
    report.rangeUsed = (this.highest - this.lowest + 1) / 2 ** this.bits;
  }
}
