import { type Circumstances, messageOf, type Pcm, pcmReader } from '@tambur/core';
import { createStore } from 'zustand';
import { Player } from '../sound/player.ts';
import type { Performed } from '../sound/workers/tryout-worker.ts';
import { tryoutWorker } from '../sound/workers/workers.ts';
import { type Program, type Side, timelineOf } from './program.ts';

interface PerformerState {
  /** Path of the entry that plays, or waits for its turn. */
  readonly playing: string | null;
  readonly side: Side;
  /** Of the last entry that was played. */
  readonly last: Performed | null;
  readonly problem: string | null;
}

const laneOf = ([sound]: readonly Pcm[]) => sound && { reader: pcmReader(sound) };

const perform = (path: string, circumstances: Partial<Circumstances> = {}, isRepeated = false) =>
  tryoutWorker.run((remote) => remote.play(path, circumstances, isRepeated));

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
      const performed = await perform(path, circumstances);
      if (this.turn !== turn) return;
      this.onLog(performed.log);
      this.store.setState({ playing: path, last: performed, problem: null });
      const [device, right] = [laneOf(performed.device), laneOf(performed.right)];
      if (!device) return;
      const player = new Player();
      this.struck.push(player);
      for (const oldest of this.struck.splice(0, Math.max(0, this.struck.length - voices))) oldest.close();
      const lanes = { device, ...(right ? { right } : {}) };
      const cut = { start: 0, end: Math.max(device.reader.frames, right?.reader.frames ?? 0) };
      player.load({ source: null, lanes, cut, sampleRate: performed.sampleRate });
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
  async run(program: Program): Promise<void> {
    this.stop();
    const { turn } = this;
    const [first] = program.steps;
    if (!first) return;
    this.store.setState({ playing: first.path, problem: null });
    try {
      const timeline = await timelineOf(program, ({ path, circumstances }, isRepeated) =>
        perform(path, circumstances, isRepeated),
      );
      if (this.turn !== turn) return;
      const { sampleRate, sides } = timeline;
      this.player.load({
        source: null,
        lanes: { device: { reader: sides.device }, right: { reader: sides.right } },
        cut: { start: 0, end: (program.most ?? Number.POSITIVE_INFINITY) * sampleRate },
        sampleRate,
      });
      this.player.listen(this.store.getState().side);
      this.player.seek(0);
      this.player.toggle();
      const done = this.player.store.subscribe(({ playing, position, problem }) => {
        if (this.turn !== turn) return done();
        for (const { step, performed } of timeline.reached(position)) {
          if (performed !== this.store.getState().last) this.onLog(performed.log);
          this.store.setState({ playing: step.path, last: performed });
        }
        if (problem !== null) this.store.setState({ problem });
        if (playing && !timeline.isOver(position)) return;
        done();
        this.stop();
      });
    } catch (error) {
      if (this.turn === turn) this.store.setState({ playing: null, problem: messageOf(error) });
    }
  }
}
