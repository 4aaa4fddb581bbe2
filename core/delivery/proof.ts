import { Room } from '../bytes/index.ts';
import type { Block } from '../chain/index.ts';
import { pairLevels } from '../kernel/samples.ts';

/** Windows in which a compressed sound is compared with what was given to its encoder. */
const WINDOW_S = 0.02;

/** Only the low tones are compared, which encoders keep: means of so many samples. High ones they may leave out. */
const SMOOTHED = 8;

/**
 * Bits for each sample from which on an encoder keeps the waveform of low tones well enough to be compared window by
 * window. Below it replaces much of the sound by what the ear takes for the same, and only the whole can be compared.
 */
const CLEAR_BITS = 0.7;

/**
 * Of each window that matters: least correlation with what went in, and least and most of its energy. Measured on the demo
 * sounds, noise, clicks, sweeps, high tones and a square wave over every encoder from 0.73 bits for each sample on: the
 * worst was 0.53, 0.23 and 2.1. A lost packet has no energy, one in the wrong place no correlation.
 */
const LEAST_LIKENESS = 0.3;
const LEAST_ENERGY = 0.05;
const MOST_ENERGY = 20;

/** Quieter windows, and those next to much louder ones, where encoders spread their noise, do not count. */
const LEAST_POWER = 1e-5;
const BESIDE = 0.03;

/**
 * Nor does a sound whose low tones are a smaller share of its energy than this: what is left of a high tone after
 * smoothing, which an encoder may leave out together with what it drowns. White noise has an eighth.
 */
const LOW_SHARE = 0.03;

/** Of a whole channel: by so much it may be more like another one that went in before they count as swapped. */
const SWAPPED = 0.1;
/** Least correlation of a whole channel. */
const LEAST_WHOLE = 0.2;

/** Sums over one channel of what went in and what came out: the low tones, and all of what went in. */
interface Sums {
  all: number;
  wanted: number;
  found: number;
  both: number;
}

const noSums = (): Sums => ({ all: 0, wanted: 0, found: 0, both: 0 });

/** Whether there is enough in the low tones of so many frames to say anything. */
const canBeJudged = ({ all, wanted }: Sums, frames: number): boolean =>
  wanted / Math.max(1, frames) >= LEAST_POWER && wanted >= LOW_SHARE * all;

const likeness = ({ wanted, found, both }: Sums): number =>
  wanted > 0 && found > 0 ? both / Math.sqrt(wanted * found) : 0;

/** What the proof needs to know about an encoder's work. */
export interface Ordered {
  /** Hz. */
  readonly sampleRate: number;
  readonly channels: number;
  /** Bits per second. */
  readonly bitRate: number;
}

/**
 * Compares a decoded sound with the one that was given to the encoder, both coming block by block, aligned to the frame.
 * A packet that was lost, a block that stands twice, channels that were swapped, do not pass.
 */
export class SoundProof {
  private readonly rendered: AsyncIterator<Block>;
  private readonly length: number;
  private readonly isClear: boolean;
  private buffered: Block = [];
  private at = 0;
  private frames = 0;
  private readonly whole: Sums[][];
  private window: Sums[];
  private filled = 0;
  /** Of each channel: what went in and what came out, smoothed. */
  private readonly wantedTones: readonly Smoother[];
  private readonly foundTones: readonly Smoother[];
  /** The last windows of each channel: they are judged when those after them are known. */
  private recent: Sums[][] = [];
  private trouble: string | null = null;

  constructor(rendered: AsyncIterable<Block>, { sampleRate, channels, bitRate }: Ordered) {
    this.rendered = rendered[Symbol.asyncIterator]();
    this.length = Math.max(1, Math.round(WINDOW_S * sampleRate));
    this.isClear = bitRate / (sampleRate * channels) >= CLEAR_BITS;

    this.whole = Array.from({ length: channels }, () => Array.from({ length: channels }, noSums));
    this.window = Array.from({ length: channels }, noSums);
    this.wantedTones = Array.from({ length: channels }, () => new Smoother());
    this.foundTones = Array.from({ length: channels }, () => new Smoother());
  }

  /** The next frames as they were decoded; what is longer than what went in does not count. */
  async add(found: Block): Promise<void> {
    const count = found[0]?.length ?? 0;
    for (let done = 0; done < count; ) {
      if (this.at >= (this.buffered[0]?.length ?? 0)) {
        const next = await this.rendered.next();
        if (next.done) return;
        this.buffered = next.value;
        this.at = 0;
      }
      const take = Math.min(count - done, this.buffered[0].length - this.at, this.length - this.filled);
      this.compare(found, done, take);
      done += take;
      this.at += take;
      this.filled += take;
      this.frames += take;
      if (this.filled === this.length) this.endWindow();
    }
  }

  private compare(found: Block, from: number, count: number): void {
    const part = (block: Block, at: number) => block.map((samples) => samples.subarray(at, at + count));
    const smoothed = (parts: Block, tones: readonly Smoother[]) =>
      tones.map((tone, channel) => tone.push(parts[channel]));
    const given = part(this.buffered, this.at);
    const wanted = smoothed(given, this.wantedTones);
    const out = smoothed(part(found, from), this.foundTones);
    const all = given.map((samples) => pairLevels(samples, samples).squares[0]);
    this.whole.forEach((row, channel) => {
      row.forEach((sums, other) => {
        const { squares, products } = pairLevels(wanted[other], out[channel]);
        for (const each of other === channel ? [sums, this.window[channel]] : [sums]) {
          each.all += all[other];
          each.wanted += squares[0];
          each.found += squares[1];
          each.both += products;
        }
      });
    });
  }

  private endWindow(): void {
    this.recent.push(this.window);
    this.window = this.window.map(noSums);
    this.filled = 0;
    if (this.recent.length > 2 * NEAR + 1) this.recent.shift();
    if (this.recent.length > NEAR) this.judge(this.recent.length - 1 - NEAR);
  }

  /** Looks at a window, now that its neighbours are known. */
  private judge(index: number): void {
    if (!this.isClear || this.trouble) return;
    this.recent[index]?.forEach((sums, channel) => {
      const near = Math.max(...this.recent.map((window) => window[channel].wanted));
      if (!canBeJudged(sums, this.length) || sums.wanted < BESIDE * near) return;
      const energy = sums.found / sums.wanted;
      if (likeness(sums) >= LEAST_LIKENESS && energy >= LEAST_ENERGY && energy <= MOST_ENERGY) return;
      const seconds = ((this.frames / this.length - NEAR) * WINDOW_S).toFixed(2);
      this.trouble = `channel ${channel + 1} is not what was encoded near ${seconds} s`;
    });
  }

  /** Ends the reading of the sound that went in. */
  async close(): Promise<void> {
    await this.rendered.return?.();
  }

  /** What is wrong with the sound; null if it is what went in. */
  verdict(): string | null {
    if (this.trouble) return this.trouble;
    for (const [channel, row] of this.whole.entries()) {
      const own = row[channel];
      if (!canBeJudged(own, this.frames)) continue;
      const like = likeness(own);
      const other = row.findIndex((sums, i) => i !== channel && likeness(sums) > like + SWAPPED);
      if (other >= 0) return `channel ${channel + 1} holds what belongs to channel ${other + 1}`;
      if (this.isClear && like < LEAST_WHOLE) return `channel ${channel + 1} is not what was encoded`;
    }
    return null;
  }
}

/** Windows to either side that a window is seen beside. */
const NEAR = 5;

/** The running mean of the last samples of a channel. What is given is valid until the next is asked for. */
class Smoother {
  private readonly room = new Room();
  /** The last samples, and behind them those that come. */
  private samples = new Float32Array(SMOOTHED);
  private sum = 0;

  push(samples: Float32Array): Float32Array {
    const { length } = samples;
    if (this.samples.length < SMOOTHED + length) {
      const larger = new Float32Array(SMOOTHED + length);
      larger.set(this.samples.subarray(0, SMOOTHED));
      this.samples = larger;
    }
    const all = this.samples;
    all.set(samples, SMOOTHED);
    const out = this.room.samples(0, length);
    let sum = this.sum;
    for (let i = 0; i < length; i++) {
      sum += all[i + SMOOTHED] - all[i];
      out[i] = sum / SMOOTHED;
    }
    this.sum = sum;
    all.copyWithin(0, length, length + SMOOTHED);
    return out;
  }
}
