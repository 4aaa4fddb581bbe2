import { interleave } from '../../audio/index.ts';
import { crc32 } from '../../bytes/index.ts';
import type { Quantiser } from '../../dsp/index.ts';
import type { Amendment, SoundEncoder } from '../library.ts';
import type { Block } from '../passage.ts';
import type { Measurements } from '../report.ts';
import type { FileMaker } from './file-maker.ts';
import { RoundingMeter } from './rounding-meter.ts';

/** Checksum of whole numbers, frame by frame, however they are cut into blocks. */
export function levelsSum(levels: readonly Int32Array[], sum: number): number {
  const all = interleave(levels, new Int32Array(levels.length * levels[0].length));
  return crc32(new Uint8Array(all.buffer), sum);
}

/** Hands the sound to a library; what keeps whole numbers gets them rounded as Depth says. */
export class LibraryMaker implements FileMaker {
  readonly framesAtOnce = 4096;
  /** Of the whole numbers that are to be kept; null if none are. */
  dataSum: number | null = null;
  private readonly encoder: SoundEncoder;
  private readonly quantiser: Quantiser | null;
  private readonly meter: RoundingMeter;
  private readonly scale: number;

  /** @param quantiser null if nothing is rounded */
  constructor(bits: number, quantiser: Quantiser | null, encoder: SoundEncoder) {
    this.encoder = encoder;
    this.quantiser = quantiser;
    this.meter = new RoundingMeter(bits);
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

  measured(): Measurements {
    return this.quantiser ? { clippedFrames: this.quantiser.clippedFrames, ...this.meter.measured() } : {};
  }

  close(): void | Promise<void> {
    return this.encoder.close();
  }
}
