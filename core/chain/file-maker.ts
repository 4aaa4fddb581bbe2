import { concatenated, crc32, deinterleave, InputError, interleave, joined } from '../audio/index.ts';
import { containerOf, type FileWriter } from '../containers/index.ts';
import { Quantiser } from '../dsp/index.ts';
import { bytesOf, type Codec, codecOf, layoutOf, type PlainEncoding, plainEncodingOf } from '../encodings/index.ts';
import type { Chain } from './fit.ts';
import type { Amendment, EncoderOrder, OpenEncoder, SoundEncoder } from './library.ts';
import type { Block } from './passage.ts';
import type { Format, RenderReport } from './station.ts';
import { bitRateTrouble } from './stations/wrap.ts';

/** Makes the bytes of a file of sound that comes block by block. */
export interface FileMaker {
  push(block: Block): Uint8Array | Promise<Uint8Array>;
  finish(): Uint8Array | Promise<Uint8Array>;
  /** What only the end knows of earlier bytes. */
  amendments(): readonly Amendment[];
  /** Adds what was measured. Asked for at the end. */
  report(report: RenderReport): void;
  /** Check sum of the encoded samples; null where a library made them. */
  readonly dataSum: number | null;
}

/** The maker that a settled chain asks for. */
export async function openFileMaker(
  chain: Chain,
  format: Format,
  frames: number,
  stem: string,
  openEncoder: OpenEncoder | undefined,
): Promise<FileMaker> {
  const { wrap, depth } = chain.stations;
  const { plan } = wrap;
  const sampleRate = Math.round(format.sampleRate);
  if (plan.compressed) {
    const trouble = bitRateTrouble(plan, sampleRate, format.channels);
    if (trouble !== null) throw new InputError('bad-setting', `Wrap: ${trouble}`);
    if (!openEncoder) throw new RangeError(`no library to encode ${plan.encoding} was handed in`);
    const order: EncoderOrder = {
      ...plan.compressed,
      encoding: plan.encoding,
      sampleRate,
      channels: format.channels,
      frames,
      bits: depth.plan.bits ?? 0,
      tags: plan.tags,
    };
    return new LibraryMaker(chain, format, await openEncoder(order));
  }
  const encoding = plainEncodingOf(plan.encoding);
  const writer = containerOf(plan.container).write({
    encoding,
    sampleRate,
    channels: format.channels,
    frames,
    dataBytes: bytesOf(encoding, frames, layoutOf(encoding, format.channels, sampleRate)),
    stem,
    tags: plan.tags,
    text: plan.text,
  });
  return new PlainMaker(chain, encoding, format, writer);
}

/** What rounding and encoding cost: the power of the sound and of the error, and the levels that were used. */
class ErrorMeter {
  private readonly bits: number;
  private signal = 0;
  private noise = 0;
  private lowest = Number.POSITIVE_INFINITY;
  private highest = Number.NEGATIVE_INFINITY;

  constructor(bits: number) {
    this.bits = bits;
  }

  levels(levels: readonly Int32Array[]): void {
    let { lowest, highest } = this;
    for (const channel of levels) {
      for (let i = 0; i < channel.length; i++) {
        if (channel[i] < lowest) lowest = channel[i];
        if (channel[i] > highest) highest = channel[i];
      }
    }
    this.lowest = lowest;
    this.highest = highest;
  }

  /** Levels beside what they stand for. */
  rounded(exact: Float32Array, levels: Int32Array): void {
    const scale = 2 ** (this.bits - 1);
    // With one bit there is no level for silence: what it stands for lies half a level up.
    const offset = this.bits === 1 ? 0.5 : 0;
    let { signal, noise } = this;
    for (let i = 0; i < exact.length; i++) {
      const error = (levels[i] + offset) / scale - exact[i];
      signal += exact[i] * exact[i];
      noise += error * error;
    }
    this.signal = signal;
    this.noise = noise;
  }

  /** Decoded samples beside what they stand for. */
  decoded(exact: Float32Array, decoded: Float32Array): void {
    let { signal, noise } = this;
    const length = Math.min(exact.length, decoded.length);
    for (let i = 0; i < length; i++) {
      const error = decoded[i] - exact[i];
      signal += exact[i] * exact[i];
      noise += error * error;
    }
    this.signal = signal;
    this.noise = noise;
  }

  report(report: RenderReport): void {
    report.signalToNoiseDb = this.signal > 0 && this.noise > 0 ? 10 * Math.log10(this.signal / this.noise) : null;
    report.rangeUsed = (this.highest - this.lowest + 1) / 2 ** this.bits;
  }
}

function quantiserOf({ stations: { depth } }: Chain, { sampleRate }: Format): Quantiser | null {
  const { bits, ...rest } = depth.plan;
  return bits === null ? null : new Quantiser({ bits, sampleRate, ...rest });
}

/** Rounds and encodes with core's own means, and measures what that costs. */
class PlainMaker implements FileMaker {
  dataSum = 0;
  private readonly writer: FileWriter;
  private readonly quantiser: Quantiser | null;
  private readonly meter: ErrorMeter;
  private readonly encode: (block: Block) => Uint8Array;
  private readonly finishData: () => Uint8Array;
  private isStarted = false;

  constructor(chain: Chain, encoding: PlainEncoding, format: Format, writer: FileWriter) {
    this.writer = writer;
    this.quantiser = quantiserOf(chain, format);
    const bits = chain.stations.depth.plan.bits ?? 0;
    this.meter = new ErrorMeter(bits);
    if (encoding.kind === 'float') {
      this.encode = (block) => encoding.encode(interleave(block, new Float32Array(block.length * block[0].length)));
      this.finishData = () => new Uint8Array(0);
      return;
    }
    const shift = encoding.linearBits - bits;
    const integers = (block: Block): { levels: readonly Int32Array[]; samples: Int32Array } => {
      if (!this.quantiser) throw new RangeError('whole-number encodings need a depth');
      const levels = this.quantiser.push(block);
      const samples = interleave(levels, new Int32Array(block.length * block[0].length));
      if (shift) for (let i = 0; i < samples.length; i++) samples[i] <<= shift;
      this.meter.levels(levels);
      return { levels, samples };
    };
    if (encoding.kind === 'integer') {
      this.encode = (block) => {
        const { levels, samples } = integers(block);
        const data = encoding.encode(samples);
        const decoded = encoding.companded ? deinterleave(encoding.decode(data), block.length) : null;
        block.forEach((exact, channel) => {
          if (decoded) this.meter.decoded(exact, decoded[channel]);
          else this.meter.rounded(exact, levels[channel]);
        });
        return data;
      };
      this.finishData = () => new Uint8Array(0);
      return;
    }
    const layout = layoutOf(encoding, format.channels, Math.round(format.sampleRate));
    const encoder = encoding.encoder(layout);
    const comparison = new Comparison(codecOf(encoding, layout), this.meter);
    this.encode = (block) => {
      comparison.expect(block);
      return comparison.compare(encoder.push(integers(block).samples));
    };
    this.finishData = () => comparison.compare(encoder.finish());
  }

  push(block: Block): Uint8Array {
    return this.pass(this.encode(block));
  }

  finish(): Uint8Array {
    return concatenated([this.pass(this.finishData()), this.writer.tail()]);
  }

  amendments(): readonly Amendment[] {
    return [];
  }

  private pass(data: Uint8Array): Uint8Array {
    this.dataSum = crc32(data, this.dataSum);
    const body = data.length ? this.writer.body(data) : data;
    if (this.isStarted) return body;
    this.isStarted = true;
    return concatenated([this.writer.head, body]);
  }

  report(report: RenderReport): void {
    if (!this.quantiser) return;
    report.clippedFrames = this.quantiser.clippedFrames;
    this.meter.report(report);
  }
}

/** Holds what went into an encoder of blocks until its blocks come out, and compares. */
class Comparison {
  private readonly codec: Codec;
  private readonly meter: ErrorMeter;
  private waiting: readonly Float32Array[] = [];

  constructor(codec: Codec, meter: ErrorMeter) {
    this.codec = codec;
    this.meter = meter;
  }

  expect(block: Block): void {
    this.waiting = block.map((samples, channel) => joined(this.waiting[channel] ?? new Float32Array(0), samples));
  }

  compare(data: Uint8Array): Uint8Array {
    if (data.length === 0) return data;
    const decoded = this.codec.decodeChannels(data);
    this.waiting = this.waiting.map((exact, channel) => {
      this.meter.decoded(exact, decoded[channel]);
      return exact.subarray(decoded[channel].length);
    });
    return data;
  }
}

/** Check sum of whole numbers, frame by frame, however they are cut into blocks. */
export function levelsSum(levels: readonly Int32Array[], sum: number): number {
  const all = interleave(levels, new Int32Array(levels.length * levels[0].length));
  return crc32(new Uint8Array(all.buffer), sum);
}

/** Hands the sound to a library; what keeps whole numbers gets them rounded as Depth says. */
class LibraryMaker implements FileMaker {
  /** Of the whole numbers that are to be kept; null where none are. */
  dataSum: number | null = null;
  private readonly encoder: SoundEncoder;
  private readonly quantiser: Quantiser | null;
  private readonly meter: ErrorMeter;
  private readonly scale: number;

  constructor(chain: Chain, format: Format, encoder: SoundEncoder) {
    const bits = chain.stations.depth.plan.bits ?? 0;
    this.encoder = encoder;
    this.quantiser = quantiserOf(chain, format);
    this.meter = new ErrorMeter(bits);
    this.scale = 2 ** (bits - 1);
  }

  push(block: Block): Promise<Uint8Array> {
    if (!this.quantiser) return this.encoder.push(block);
    const levels = this.quantiser.push(block);
    this.dataSum = levelsSum(levels, this.dataSum ?? 0);
    this.meter.levels(levels);
    const rounded = block.map((exact, channel) => {
      this.meter.rounded(exact, levels[channel]);
      return Float32Array.from(levels[channel], (level) => level / this.scale);
    });
    return this.encoder.push(rounded);
  }

  finish(): Promise<Uint8Array> {
    return this.encoder.finish();
  }

  amendments(): readonly Amendment[] {
    return this.encoder.amendments?.() ?? [];
  }

  report(report: RenderReport): void {
    if (!this.quantiser) return;
    report.clippedFrames = this.quantiser.clippedFrames;
    this.meter.report(report);
  }
}
