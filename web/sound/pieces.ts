import { type Chain, clamp, formatOf, messageOf, type PcmReader, pieceOf } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { LRUCache } from 'lru-cache';
import type { Cut } from './cut.ts';
import type { RenderedPiece } from './workers/preview-worker.ts';
import { pieceWorker } from './workers/workers.ts';

/** A rendered piece of a clip, or why there is none. */
export type PieceOutcome = (RenderedPiece & { readonly range: Cut }) | { readonly refused: string };

/** Seconds of a piece, of plain files and of those that a library compresses: what is made within a quarter of a second. */
const PLAIN_SECONDS = 4;
const COMPRESSED_SECONDS = 1;
/** Pieces that are kept: about 20 MB of stereo. */
const KEPT = 6;

/** Pieces are made one after the other, so that one that nobody waits for any more need not be begun. */
let turn: Promise<unknown> = Promise.resolve();

const NOT_WANTED = { refused: 'This piece is not needed any more.' };

/** Pieces of a clip that takes long to be made as a whole: each is made when it is asked for, and stays for a while. */
export class Pieces {
  /** What may come out differently in the whole, in words. */
  readonly provisional: readonly string[];
  private readonly source: SourceView;
  private readonly chain: Chain;
  private readonly length: number;
  private readonly known = new LRUCache<number, Promise<PieceOutcome>>({ max: KEPT });
  private holders = 0;

  constructor(source: SourceView, chain: Chain) {
    this.source = source;
    this.chain = chain;
    const seconds = chain.stations.wrap.plan.compressed ? COMPRESSED_SECONDS : PLAIN_SECONDS;
    this.length = seconds * source.facts.sampleRate;
    this.provisional = pieceOf(chain, this.rangeOf(0)).provisional;
  }

  private get cut(): Cut {
    return this.chain.stations.cut.plan;
  }

  /** Which piece a frame of the source is in; the nearest, where it is beside the cut. */
  indexAt(frame: number): number {
    const { start, end } = this.cut;
    return Math.floor((clamp(frame, start, end - 1) - start) / this.length);
  }

  private rangeOf(index: number): Cut {
    const start = this.cut.start + index * this.length;
    return { start, end: Math.min(this.cut.end, start + this.length) };
  }

  /** Pieces are made only while somebody holds on to them, which ends with what this gives back. */
  hold(): () => void {
    this.holders++;
    return () => {
      this.holders--;
    };
  }

  /** Never rejects: what cannot be made says so. */
  at(index: number): Promise<PieceOutcome> {
    const known = this.known.get(index);
    if (known) return known;
    const made = turn.then(() => {
      if (this.holders > 0) return this.make(index);
      this.known.delete(index);
      return NOT_WANTED;
    });
    turn = made;
    this.known.set(index, made);
    return made;
  }

  private async make(index: number): Promise<PieceOutcome> {
    const range = this.rangeOf(index);
    try {
      const outcome = await pieceWorker.run((remote) => remote.piece(this.source, this.chain, range));
      return 'refused' in outcome ? outcome : { ...outcome, range };
    } catch (error) {
      return { refused: `This piece could not be made: ${messageOf(error)}` };
    }
  }

  /** The result at the source's rate, piece by piece as it is asked for; frame 0 is the start of the cut. */
  reader(): PcmReader {
    const { start, end } = this.cut;
    const { channels } = formatOf(this.chain);
    return {
      sampleRate: this.source.facts.sampleRate,
      channelCount: channels,
      frames: end - start,
      read: async (from, count) => {
        const first = this.indexAt(start + from);
        const last = this.indexAt(start + from + count - 1);
        const found = await Promise.all(Array.from({ length: last - first + 1 }, (_, i) => this.at(first + i)));
        const out = Array.from({ length: channels }, () => new Float32Array(count));
        for (const piece of found) {
          if ('refused' in piece) throw new Error(piece.refused);
          const offset = piece.range.start - start - from;
          out.forEach((samples, channel) => {
            const heard = piece.heard.channels[channel] ?? piece.heard.channels[0];
            if (heard) samples.set(heard.subarray(Math.max(0, -offset), count - offset), Math.max(0, offset));
          });
        }
        return out;
      },
    };
  }
}

/** Samples a second that the page makes, about, of plain files and of those that a library compresses. */
const PLAIN_SPEED = 12e6;
const COMPRESSED_SPEED = 1.5e6;
/** Seconds of making from which pieces come first. */
const LONG = 1;
/** Samples of a result that the page holds at most: 128 MB. */
const MOST_SAMPLES = 32e6;

/** How a clip is made in the page: at once, in pieces first, or in pieces alone where the whole is too large for it. */
export function wayOf({ order, stations }: Chain): 'whole' | 'pieces first' | 'pieces' {
  const { cut, ends, channels, wrap } = stations;
  const samples = (cut.plan.end - cut.plan.start) * order.facts.channels;
  const speed = wrap.plan.compressed ? COMPRESSED_SPEED : PLAIN_SPEED;
  if (samples / speed < LONG) return 'whole';
  return ends.plan.frames * channels.plan.matrix.length <= MOST_SAMPLES ? 'pieces first' : 'pieces';
}
