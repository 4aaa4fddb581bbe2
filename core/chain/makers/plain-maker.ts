import { deinterleave, interleave, joined } from '../../audio/index.ts';
import { concatenated, crc32, Room } from '../../bytes/index.ts';
import type { FileWriter } from '../../containers/index.ts';
import type { Quantiser } from '../../dsp/index.ts';
import { type Codec, codecOf, layoutOf, type PlainEncoding } from '../../encodings/index.ts';
import type { Block } from '../passage.ts';
import type { Measurements } from '../report.ts';
import type { Format } from '../station.ts';
import type { DepthPlan } from '../stations/depth.ts';
import { type FileMaker, quantiserOf } from './file-maker.ts';
import { RoundingMeter } from './rounding-meter.ts';

/** Rounds and encodes with core's own means, and measures what that costs. */
export class PlainMaker implements FileMaker {
  dataSum = 0;
  readonly size: number | undefined;
  private readonly writer: FileWriter;
  private readonly quantiser: Quantiser | null;
  private readonly meter: RoundingMeter;
  private readonly encode: (block: Block) => Uint8Array;
  private readonly finishData: () => Uint8Array;
  private isStarted = false;

  constructor(depth: DepthPlan, encoding: PlainEncoding, format: Format, writer: FileWriter) {
    this.writer = writer;
    this.size = writer.size;
    this.quantiser = quantiserOf(depth, format);
    const bits = depth.bits ?? 0;
    this.meter = new RoundingMeter(bits);
    if (encoding.kind === 'float') {
      this.encode = (block) => encoding.encode(interleave(block, new Float32Array(block.length * block[0].length)));
      this.finishData = () => new Uint8Array(0);
      return;
    }
    const shift = encoding.linearBits - bits;
    let stored = new Int32Array(0);
    const integers = (block: Block): { levels: readonly Int32Array[]; samples: Int32Array } => {
      if (!this.quantiser) throw new RangeError('whole-number encodings need a depth');
      const levels = this.quantiser.push(block);
      const length = block.length * block[0].length;
      if (stored.length < length) stored = new Int32Array(length);
      const samples = interleave(levels, stored.subarray(0, length));
      if (shift) for (let i = 0; i < samples.length; i++) samples[i] <<= shift;
      this.meter.levels(levels);
      return { levels, samples };
    };
    if (encoding.kind === 'integer') {
      const room = new Room();
      this.encode = (block) => {
        const { levels, samples } = integers(block);
        const data = encoding.encode(samples);
        const decoded = encoding.companded ? deinterleave(encoding.decode(data, room), block.length, room) : null;
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

  private pass(data: Uint8Array): Uint8Array {
    this.dataSum = crc32(data, this.dataSum);
    const body = data.length ? this.writer.body(data) : data;
    if (this.isStarted) return body;
    this.isStarted = true;
    return concatenated([this.writer.head, body]);
  }

  measured(): Measurements {
    return this.quantiser ? { clippedFrames: this.quantiser.clippedFrames, ...this.meter.measured() } : {};
  }
}

/** Holds what went into an encoder of blocks until its blocks come out, and compares. */
class Comparison {
  private readonly codec: Codec;
  private readonly meter: RoundingMeter;
  private waiting: readonly Float32Array[] = [];

  constructor(codec: Codec, meter: RoundingMeter) {
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
