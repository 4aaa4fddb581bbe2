import { type Circumstances, frameCount, messageOf, pcmReader } from '@tambur/core';
import { createStore } from 'zustand';
import { Player } from '../sound/player.ts';
import type { Performed } from '../sound/workers/tryout-worker.ts';
import { tryoutWorker } from '../sound/workers/workers.ts';

/** One sound of what a device plays by itself, and the seconds before the next one. */
export interface Step {
  readonly path: string;
  readonly pause?: number;
  /** Seconds before it starts. */
  readonly lead?: number;
  readonly circumstances?: Partial<Circumstances>;
}

/** What a device is told to play: step by step, once or again and again. */
interface Program {
  readonly steps: readonly Step[];
  readonly isForever?: boolean;
  /** Seconds after which it ends by itself. */
  readonly most?: number;
}

/** What is compared: the file as it should sound, and as the device plays it. */
export type Side = 'right' | 'device';

interface PerformerState {
  /** Path of the entry that plays, or waits for its turn. */
  readonly playing: string | null;
  readonly side: Side;
  /** Of the last entry that was played. */
  readonly last: (Performed & { readonly path: string }) | null;
  readonly problem: string | null;
}

const waited = (seconds: number) => new Promise((resolve) => setTimeout(resolve, seconds * 1000));

const lanesOf = ({ device, right }: Performed) => ({
  lanes: {
    ...(device ? { device: { reader: pcmReader(device) } } : {}),
    ...(right ? { right: { reader: pcmReader(right) } } : {}),
  },
  cut: { start: 0, end: Math.max(device ? frameCount(device) : 0, right ? frameCount(right) : 0) },
});

/** Plays what a device plays, and what it should play beside it: switching keeps the place. */
export class Performer {
  readonly store = createStore<PerformerState>(() => ({ playing: null, side: 'device', last: null, problem: null }));
  private readonly player = new Player();
  /** What was struck and is still heard, the oldest first. */
  private readonly struck: Player[] = [];
  /** Counts programs, so that what was stopped does not go on. */
  private turn = 0;

  constructor(onLog: (log: Performed['log']) => void) {
    this.onLog = onLog;
  }
  private readonly onLog: (log: Performed['log']) => void;

  setSide(side: Side): void {
    for (const player of [this.player, ...this.struck]) player.listen(side);
    this.store.setState({ side });
  }

  stop(): void {
    this.turn++;
    this.player.stop();
    for (const player of this.struck.splice(0)) player.close();
    this.store.setState({ playing: null });
  }

  close(): void {
    this.stop();
    this.player.close();
  }

  /** Plays an entry beside those that are still heard; of more than the device has voices the oldest one ends. */
  async strike(path: string, circumstances: Partial<Circumstances>, voices: number): Promise<void> {
    const { turn } = this;
    try {
      const performed = await tryoutWorker.run((remote) => remote.play(path, circumstances));
      if (this.turn !== turn) return;
      this.onLog(performed.log);
      this.store.setState({ playing: path, last: { ...performed, path }, problem: null });
      if (!performed.device) return;
      const player = new Player();
      this.struck.push(player);
      for (const oldest of this.struck.splice(0, Math.max(0, this.struck.length - voices))) oldest.close();
      player.load({ source: null, ...lanesOf(performed), sampleRate: performed.sampleRate });
      player.listen(this.store.getState().side);
      player.store.subscribe((now, before) => {
        if (now.playing || !before.playing || !this.struck.includes(player)) return;
        this.struck.splice(this.struck.indexOf(player), 1);
        player.close();
        if (this.struck.length === 0) this.store.setState({ playing: null });
      });
      player.seek(0);
      player.toggle();
    } catch (error) {
      if (this.turn === turn) this.store.setState({ problem: messageOf(error) });
    }
  }

  /** Plays an entry, or ends it where it plays. */
  toggle(path: string, circumstances: Partial<Circumstances> = {}): void {
    if (this.store.getState().playing === path) this.stop();
    else void this.run({ steps: [{ path, circumstances }] });
  }

  /** Runs until it is over or something else is played. */
  async run({ steps, isForever = false, most = Number.POSITIVE_INFINITY }: Program): Promise<void> {
    this.stop();
    const turn = this.turn;
    const isOver = () => this.turn !== turn;
    const end = performance.now() + most * 1000;
    const timer = Number.isFinite(most) ? setTimeout(() => isOver() || this.stop(), most * 1000) : undefined;
    try {
      do {
        for (const { path, pause = 0, lead = 0, circumstances = {} } of steps) {
          this.store.setState({ playing: path, problem: null });
          if (lead > 0) await waited(lead);
          if (isOver()) return;
          const performed = await tryoutWorker.run((remote) => remote.play(path, circumstances));
          if (isOver()) return;
          this.onLog(performed.log);
          this.store.setState({ last: { ...performed, path } });
          if (performed.device) await this.sound(performed);
          if (isOver()) return;
          if (pause > 0) await waited(pause);
          if (isOver()) return;
          // A device that holds its sounds back does not ask again and again.
          if (!performed.device) isForever = false;
        }
      } while (isForever && steps.length > 0 && performance.now() < end);
      this.store.setState({ playing: null });
    } catch (error) {
      if (!isOver()) this.store.setState({ playing: null, problem: messageOf(error) });
    } finally {
      clearTimeout(timer);
    }
  }

  /** Plays one sound to its end. */
  private sound(performed: Performed): Promise<void> {
    this.player.load({ source: null, ...lanesOf(performed), sampleRate: performed.sampleRate });
    this.player.listen(this.store.getState().side);
    return new Promise((resolve) => {
      let wasPlaying = false;
      const done = this.player.store.subscribe(({ playing, problem }) => {
        wasPlaying ||= playing;
        if (problem !== null) this.store.setState({ problem });
        if (playing || (!wasPlaying && problem === null)) return;
        done();
        resolve();
      });
      this.player.seek(0);
      this.player.toggle();
    });
  }
}
