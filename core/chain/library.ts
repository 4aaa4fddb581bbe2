import type { Tag } from '../containers/index.ts';
import type { Block } from './passage.ts';

/** What a library is asked to encode. */
export interface EncoderOrder {
  /** Id of the compressed encoding. */
  readonly encoding: string;
  /** Hz. */
  readonly sampleRate: number;
  readonly channels: number;
  /** Frames that will come. */
  readonly frames: number;
  /** Bits per second; 0 if the sound decides. */
  readonly bitRate: number;
  /** MP3: how two channels are coded. */
  readonly stereoMode: StereoMode;
  /** MP3: true writes a first frame that states length, delay and padding. */
  readonly infoFrame: boolean;
  /** Bits of each sample, where whole numbers are kept exactly; 0 elsewhere. */
  readonly bits: number;
  readonly tags: readonly Tag[];
}

export type StereoMode = 'joint' | 'stereo';

/**
 * Makes a whole file, container and all, of a sound that comes block by block. Whoever opens one closes it, however the
 * work ends.
 */
export interface SoundEncoder {
  /** The next frames, as numbers from -1 to 1; gives bytes that are complete. */
  push(block: Block): Promise<Uint8Array>;
  finish(): Promise<Uint8Array>;
  /** What only the end knows of earlier bytes. Asked for when all has been written. */
  amendments?(): readonly Amendment[];
  /** Releases threads and memory. May come at any time, and more than once. */
  close(): void | Promise<void>;
}

/** Bytes of a file that take the place of others. */
export interface Amendment {
  /** Place in the file. */
  readonly at: number;
  readonly bytes: Uint8Array;
}

/** Opens an encoder of a library. Core has none itself: whoever renders passes it in. */
export type OpenEncoder = (order: EncoderOrder) => Promise<SoundEncoder>;
