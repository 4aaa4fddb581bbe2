import { type Circumstances, frameCount, type Pcm, type PcmReader } from '@tambur/core';
import type { DevicePlay } from '../sound/workers/tryout-worker.ts';

/** One sound of what a device plays by itself, and the seconds before the next one. */
export interface ProgramStep {
  readonly path: string;
  readonly pause?: number;
  /** Seconds before it starts. */
  readonly lead?: number;
  readonly circumstances?: Partial<Circumstances>;
}

/** What a device is told to play: step by step, once or again and again. */
export interface Program {
  readonly steps: readonly ProgramStep[];
  readonly isForever?: boolean;
  /** Seconds after which it ends by itself. */
  readonly most?: number;
  /** Seconds of a bar, where the device changes to another program on the bar. */
  readonly bar?: number;
}

/** What is compared: the file as it should sound, and as the device plays it. */
export type Side = 'right' | 'device';

/** Makes the sound of a step: in two rounds, where it follows upon itself without a gap; at the rate of what is played, where that is known. */
export type Perform = (step: ProgramStep, isRepeated: boolean, sampleRate?: number) => Promise<DevicePlay>;

/** A step and its sound. */
interface Turn {
  readonly step: ProgramStep;
  readonly performed: DevicePlay;
}

/** A turn at its place. */
interface Cue extends Turn {
  /** Frames at which its turn comes, and at which its sound begins. */
  readonly at: number;
  readonly begins: number;
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
  private readonly sampleRate: number | undefined;
  private readonly made = new Map<number, Promise<DevicePlay>>();
  private isSilent = false;

  constructor(program: Program, perform: Perform, sampleRate?: number) {
    this.program = program;
    this.perform = perform;
    this.sampleRate = sampleRate;
    const [first, ...others] = program.steps;
    this.isRound = Boolean(program.isForever) && others.length === 0 && !first?.pause && !first?.lead;
  }

  /** The next one; null if the program is over. A device that holds its sounds back does not ask again and again. */
  async at(index: number): Promise<Turn | null> {
    const { steps, isForever } = this.program;
    const step = steps[index % steps.length];
    if (!step || (index >= steps.length && (!isForever || this.isSilent))) return null;
    const key = this.isRound ? 0 : index;
    const known = this.made.get(key) ?? this.perform(step, this.isRound, this.sampleRate);
    this.made.set(key, known);
    this.made.delete(key - KEPT);
    const performed = await known;
    if (lengthOf(performed.device[0]) === 0) this.isSilent = true;
    return { step, performed };
  }
}

/** One side of what is played: a sound of which nobody knows how long it is before it is over. */
class SideTrack implements PcmReader {
  readonly channelCount = 2;
  readonly frames = Number.POSITIVE_INFINITY;
  readonly sampleRate: number;
  /** Frames so far; all of them, where it is over. */
  end = 0;
  isOver = false;
  /** Frames that somebody has asked for. */
  asked = 0;
  /** Turns that have not been told of yet, and the frame at which each begins. */
  private cues: Cue[] = [];
  private readonly side: Side;
  private turns: Turns;
  private following: { readonly turns: Turns; readonly at: number } | null = null;
  private next = 0;
  private stretches: { readonly start: number; readonly end: number; readonly sound: Pcm | undefined }[] = [];

  constructor(side: Side, turns: Turns, sampleRate: number) {
    this.side = side;
    this.turns = turns;
    this.sampleRate = sampleRate;
  }

  /** What was read once is gone: ranges follow each other. */
  async read(start: number, count: number): Promise<readonly Float32Array[]> {
    this.asked = Math.max(this.asked, start + count);
    while (!this.isOver && this.end < start + count) await this.extend();
    this.stretches = this.stretches.filter((stretch) => stretch.end > start);
    return Array.from({ length: this.channelCount }, (_, channel) => {
      const piece = new Float32Array(count);
      for (const { start: from, end, sound } of this.stretches) {
        // One channel is heard on both sides.
        const samples = sound?.channels[channel] ?? sound?.channels[0];
        const [first, last] = [Math.max(start, from), Math.min(start + count, end)];
        if (samples && first < last) piece.set(samples.subarray(first - from, last - from), first - start);
      }
      return piece;
    });
  }

  /**
   * Other turns take over.
   * @param at a frame that nobody has asked for yet
   */
  follow(turns: Turns, at: number): void {
    this.following = { turns, at };
    this.isOver = false;
    this.goOver();
  }

  /** Turns that have come up to a frame, each told once. */
  reached(frame: number): readonly Cue[] {
    const later = this.cues.findIndex(({ at }) => at > frame);
    return this.cues.splice(0, later < 0 ? this.cues.length : later);
  }

  private goOver(): void {
    if (!this.following || this.end < this.following.at) return;
    const { turns, at } = this.following;
    this.following = null;
    this.turns = turns;
    this.next = 0;
    this.end = at;
    this.cues = this.cues.filter((cue) => cue.at < at);
    this.stretches = this.stretches.map((stretch) => ({ ...stretch, end: Math.min(stretch.end, at) }));
  }

  private async extend(): Promise<void> {
    const { turns } = this;
    const index = this.next;
    const turn = await turns.at(index);
    // Others have taken over while it was made.
    if (turns !== this.turns) return;
    if (turn) this.append(turn, index);
    else if (this.following) this.end = this.following.at;
    else this.isOver = true;
    this.goOver();
  }

  private append({ step, performed }: Turn, index: number): void {
    this.next++;
    // Ready before it is needed. What goes wrong with it is said when its turn comes.
    this.turns.at(index + 1).catch(() => undefined);
    const rounds = performed[this.side];
    const sound = rounds[Math.min(index, rounds.length - 1)];
    const own = lengthOf(sound);
    // Steps begin together on both sides. A round goes on where it ends, on either side: a gap is one of the device's.
    const length =
      this.turns.isRound && own > 0 ? own : Math.max(lengthOf(performed.device[0]), lengthOf(performed.right[0]));
    const start = this.end + this.framesOf(step.lead);
    this.cues.push({ step, performed, at: this.end, begins: start });
    this.stretches.push({ start, end: start + own, sound });
    this.end = start + length + this.framesOf(step.pause);
  }

  private readonly framesOf = (seconds = 0) => Math.round(seconds * this.sampleRate);
}

/** What is played as one sound on each side, made while it is played: what follows does so on the frame. */
export interface Timeline {
  readonly sampleRate: number;
  readonly sides: Readonly<Record<Side, PcmReader>>;
  /** Another program takes over on the next bar of which nothing has been read yet: the last one that was called for. */
  follow(program: Program, bar: number): Promise<void>;
  /** Turns that have come up to a frame, each told once. */
  reached(frame: number): readonly Cue[];
  /** True if nothing is left after a frame. */
  isOver(frame: number): boolean;
}

/** A program that is ready to begin: its first sound is made. */
export async function timelineOf(program: Program, perform: Perform): Promise<Timeline> {
  const turns = new Turns(program, perform);
  const sampleRate = (await turns.at(0))?.performed.sampleRate ?? 48_000;
  const device = new SideTrack('device', turns, sampleRate);
  const right = new SideTrack('right', turns, sampleRate);
  const tracks = [device, right];
  let wanted = turns;
  return {
    sampleRate,
    sides: { device, right },
    async follow(other, bar) {
      const taking = new Turns(other, perform, sampleRate);
      wanted = taking;
      await taking.at(0);
      if (taking !== wanted) return;
      const bars = Math.ceil(Math.max(device.asked, right.asked) / (bar * sampleRate));
      for (const track of tracks) track.follow(taking, Math.round(bars * bar * sampleRate));
    },
    reached(frame) {
      const [told] = tracks.map((track) => track.reached(frame));
      return told ?? [];
    },
    isOver: (frame) => tracks.every((track) => track.isOver && frame >= track.end),
  };
}
