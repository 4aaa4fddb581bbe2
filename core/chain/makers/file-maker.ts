import { Quantiser } from '../../dsp/index.ts';
import type { Amendment } from '../library.ts';
import type { Block } from '../passage.ts';
import type { Measurements } from '../report.ts';
import type { Format } from '../station.ts';
import type { DepthPlan } from '../stations/depth.ts';

/** Makes the bytes of a file of sound that comes block by block. Whoever opens it closes it, however the work ends. */
export interface FileMaker {
  /** So many frames are pushed at a time, where that takes so long that somebody may want to stop in between. */
  readonly framesAtOnce?: number | undefined;
  /** Bytes of the whole file, where that is known before it is made. */
  readonly size?: number | undefined;
  push(block: Block): Uint8Array | Promise<Uint8Array>;
  finish(): Uint8Array | Promise<Uint8Array>;
  /** What only the end knows of earlier bytes. */
  amendments?(): readonly Amendment[];
  /** Asked for at the end. */
  measured(): Measurements;
  /**
   * Checksum of what a reader must find again: the encoded samples as they are in the file; the whole numbers, where a
   * library keeps those; null if it keeps none.
   */
  readonly dataSum: number | null;
  close?(): void | Promise<void>;
}

/** The quantiser for a depth; null if nothing is rounded. */
export const quantiserOf = ({ bits, ...rest }: DepthPlan, { sampleRate }: Format): Quantiser | null =>
  bits === null ? null : new Quantiser({ bits, sampleRate, ...rest });
