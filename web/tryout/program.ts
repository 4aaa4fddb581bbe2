import { type Circumstances, frameCount, type Pcm, type PcmReader } from '@tambur/core';
import type { Performed } from '../sound/workers/tryout-worker.ts';

/** One sound of what a device plays by itself, and the seconds before the next one. */
export interface Step {
  readonly path: string;
  readonly pause?: number;
  /** Seconds before it starts. */
  readonly lead?: number;
  readonly circumstances?: Partial<Circumstances>;
}

/** What a device is told to play: step by step, once or again and again. */
export interface Program {
  readonly steps: readonly Step[];
  readonly isForever?: boolean;
  /** Seconds after which it ends by itself. */
  readonly most?: number;
}

/** What is compared: the file as it should sound, and as the device plays it. */
export type Side = 'right' | 'device';

/** Makes the sound of a step: in two rounds, where it follows upon itself without a gap. */
export type Perform = (step: Step, isRepeated: boolean) => Promise<Performed>;

/** A step whose turn has come. */
interface Turn {
  readonly step: Step;
  readonly performed: Performed;
}

/** Turns whose sound is kept: the one that is heard, and the one after it, on both sides. */
const KEPT = 4;

const lengthOf = (sound: Pcm | undefined) => (sound ? frameCount(sound) : 0);

/** The turns of a program, each made when it is needed. */
class Turns {
  /** True for a sound that follows upon itself: it is made once. */
  readonly isRound: boolean;
  private readonly program: Program;
  private readonly perform: Perform;
  private readonly made = new Map<number, Promise<Performed>>();
  private isSilent = false;

  constructor(program: Program, perform: Perform) {
    this.program = program;
    this.perform = perform;
    const [first, ...others] = program.steps;
    this.isRound = Boolean(program.isForever) && others.length === 0 && !first?.pause && !first?.lead;
  }

  /** The next one; null where the program is over. A device that holds its sounds back does not ask again and again. */
  async at(index: number): Promise<Turn | null> {
    const { steps, isForever } = this.program;
    const step = steps[index % steps.length];
    if (!step || (index >= steps.length && (!isForever || this.isSilent))) return null;
    const key = this.isRound ? 0 : index;
    const known = this.made.get(key) ?? this.perform(step, this.isRound);
    this.made.set(key, known);
    this.made.delete(key - KEPT);
    const performed = await known;
    if (lengthOf(performed.device[0]) === 0) this.isSilent = true;
    return { step, performed };
  }
}

/** One side of a program: a sound of which nobody knows how long it is before it is over. */
class Track implements PcmReader {
  readonly channelCount = 2;
  readonly frames = Number.POSITIVE_INFINITY;
  readonly sampleRate: number;
  /** Frames so far; all of them, where it is over. */
  end = 0;
  isOver = false;
  /** Turns that have not been told of yet, and the frame at which each begins. */
  readonly cues: (Turn & { readonly at: number })[] = [];
  private readonly side: Side;
  private readonly turns: Turns;
  private next = 0;
  private stretches: { readonly start: number; readonly sound: Pcm | undefined }[] = [];

  constructor(side: Side, turns: Turns, sampleRate: number) {
    this.side = side;
    this.turns = turns;
    this.sampleRate = sampleRate;
  }

  /** What was read once is gone: ranges follow each other. */
  async read(start: number, count: number): Promise<readonly Float32Array[]> {
    while (!this.isOver && this.end < start + count) await this.extend();
    this.stretches = this.stretches.filter(({ start: from, sound }) => from + lengthOf(sound) > start);
    return Array.from({ length: this.channelCount }, (_, channel) => {
      const piece = new Float32Array(count);
      for (const { start: from, sound } of this.stretches) {
        // One channel is heard on both sides.
        const samples = sound?.channels[channel] ?? sound?.channels[0];
        const skipped = Math.max(0, start - from);
        const at = Math.max(0, from - start);
        if (samples && at < count) piece.set(samples.subarray(skipped, skipped + count - at), at);
      }
      return piece;
    });
  }

  private async extend(): Promise<void> {
    const index = this.next;
    const turn = await this.turns.at(index);
    if (!turn) {
      this.isOver = true;
      return;
    }
    this.next++;
    // Ready before it is needed. What goes wrong with it is said when its turn comes.
    this.turns.at(index + 1).catch(() => undefined);
    const { step, performed } = turn;
    const rounds = performed[this.side];
    const sound = rounds[Math.min(index, rounds.length - 1)];
    const own = lengthOf(sound);
    // Steps begin together on both sides. A round goes on where it ends, on either side: a gap is one of the device's.
    const length =
      this.turns.isRound && own > 0 ? own : Math.max(lengthOf(performed.device[0]), lengthOf(performed.right[0]));
    const start = this.end + this.framesOf(step.lead);
    this.cues.push({ ...turn, at: this.end });
    this.stretches.push({ start, sound });
    this.end = start + length + this.framesOf(step.pause);
  }

  private readonly framesOf = (seconds = 0) => Math.round(seconds * this.sampleRate);
}

/** A program as one sound on each side, made while it is played: what follows does so on the frame. */
export interface Timeline {
  readonly sampleRate: number;
  readonly sides: Readonly<Record<Side, PcmReader>>;
  /** Turns that have come up to a frame, each told once. */
  reached(frame: number): readonly Turn[];
  /** True where nothing is left after a frame. */
  isOver(frame: number): boolean;
}

/** A program that is ready to begin: its first sound is made. */
export async function timelineOf(program: Program, perform: Perform): Promise<Timeline> {
  const turns = new Turns(program, perform);
  const sampleRate = (await turns.at(0))?.performed.sampleRate ?? 48_000;
  const device = new Track('device', turns, sampleRate);
  const right = new Track('right', turns, sampleRate);
  return {
    sampleRate,
    sides: { device, right },
    reached: (frame) => {
      const later = device.cues.findIndex(({ at }) => at > frame);
      return device.cues.splice(0, later < 0 ? device.cues.length : later);
    },
    isOver: (frame) => [device, right].every((track) => track.isOver && frame >= track.end),
  };
}
