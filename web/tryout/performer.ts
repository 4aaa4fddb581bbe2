import { type Circumstances, messageOf, type Pcm, pcmReader } from '@tambur/core';
import { createStore } from 'zustand';
import { LanePlayer } from '../sound/player.ts';
import type { DevicePlay } from '../sound/workers/tryout-worker.ts';
import { tryoutWorker } from '../sound/workers/workers.ts';
import { type Perform, type Program, type Side, type Timeline, timelineOf } from './program.ts';

interface PerformerState {
  /** Path of the entry that plays, or is about to. */
  readonly playing: string | null;
  /** Path of the entry that takes over on the next bar. */
  readonly waiting: string | null;
  readonly side: Side;
  /** Frames from where the sound of the last entry began; null until it has. */
  readonly place: number | null;
  /** Of the last entry that was played. */
  readonly last: DevicePlay | null;
  readonly problem: string | null;
}

const laneOf = ([sound]: readonly Pcm[]) => sound && { reader: pcmReader(sound) };

const perform: Perform = ({ path, circumstances = {} }, isRepeated, sampleRate) =>
  tryoutWorker.run((remote) => remote.play(path, circumstances, isRepeated, sampleRate));

/** What the device does next may change at any moment. */
const SCHEDULE = { piece: 0.25, ahead: 0.5 };

/** Plays what a device plays, and what it should play beside it: switching keeps the place. */
export class Performer {
  readonly store = createStore<PerformerState>(() => ({
    playing: null,
    waiting: null,
    side: 'device',
    place: null,
    last: null,
    problem: null,
  }));
  private readonly player = new LanePlayer(SCHEDULE);
  /** What was struck and is still heard, the oldest first, with its mute group. */
  private readonly struck: { readonly player: LanePlayer; readonly group: number | null }[] = [];
  /** Counts programs, so that what was stopped does not go on. */
  private turn = 0;
  /** What is played on the bar. */
  private onTheBar: Timeline | null = null;

  constructor(onLog: (log: DevicePlay['log']) => void) {
    this.onLog = onLog;
  }
  private readonly onLog: (log: DevicePlay['log']) => void;

  setSide(side: Side): void {
    for (const player of [this.player, ...this.struck.map((entry) => entry.player)]) player.listen(side);
    this.store.setState({ side });
  }

  stop(): void {
    this.turn++;
    this.player.stop();
    this.onTheBar = null;
    for (const { player } of this.struck.splice(0)) player.close();
    this.store.setState({ playing: null, waiting: null });
  }

  close(): void {
    this.stop();
    this.player.close();
  }

  /**
   * Plays an entry beside those that are still heard. Others of its mute group end, and of more than the device has voices the
   * oldest one.
   */
  async strike(
    path: string,
    circumstances: Partial<Circumstances>,
    { voices, group = null }: { readonly voices: number; readonly group?: number | null },
  ): Promise<void> {
    const { turn } = this;
    try {
      const performed = await perform({ path, circumstances }, false);
      if (this.turn !== turn) return;
      this.onLog(performed.log);
      this.store.setState({ playing: path, last: performed, place: 0, problem: null });
      const [device, right] = [laneOf(performed.device), laneOf(performed.right)];
      if (!device) return;
      const player = new LanePlayer();
      const others = this.struck.splice(0);
      const isOfGroup = (entry: { readonly group: number | null }) => group !== null && entry.group === group;
      const kept = others.filter((entry) => !isOfGroup(entry)).slice(voices > 1 ? 1 - voices : others.length);
      for (const entry of others) if (!kept.includes(entry)) entry.player.close();
      this.struck.push(...kept, { player, group });
      const lanes = { device, ...(right ? { right } : {}) };
      const cut = { start: 0, end: Math.max(device.reader.frames, right?.reader.frames ?? 0) };
      player.load({ source: null, lanes, cut, sampleRate: performed.sampleRate });
      player.listen(this.store.getState().side);
      player.store.subscribe((now, before) => {
        if (this.struck.at(-1)?.player === player && now.position !== before.position)
          this.store.setState({ place: now.position });
        const at = this.struck.findIndex((entry) => entry.player === player);
        if (now.playing || !before.playing || at < 0) return;
        this.struck.splice(at, 1);
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

  /** Runs until it is over or something else is played: at once, or on the next bar where the device changes on the bar. */
  async run(program: Program): Promise<void> {
    const [first] = program.steps;
    if (first && program.bar !== undefined && this.onTheBar) {
      await this.follow(this.onTheBar, first.path, program, program.bar);
      return;
    }
    this.stop();
    const { turn } = this;
    if (!first) return;
    this.store.setState({ playing: first.path, place: null, problem: null });
    try {
      const timeline = await timelineOf(program, perform);
      if (this.turn === turn) this.play(timeline, program);
    } catch (error) {
      if (this.turn === turn) this.store.setState({ playing: null, problem: messageOf(error) });
    }
  }

  private async follow(timeline: Timeline, path: string, program: Program, bar: number): Promise<void> {
    this.store.setState({ waiting: path, problem: null });
    try {
      await timeline.follow(program, bar);
    } catch (error) {
      // Of what nobody waits for any more nothing is said.
      if (this.onTheBar !== timeline || this.store.getState().waiting !== path) return;
      this.store.setState({ waiting: null, problem: messageOf(error) });
    }
  }

  private play(timeline: Timeline, { most = Number.POSITIVE_INFINITY, bar }: Program): void {
    const { turn } = this;
    const { sampleRate, sides } = timeline;
    let begins = 0;
    if (bar !== undefined) this.onTheBar = timeline;
    this.player.load({
      source: null,
      lanes: { device: { reader: sides.device }, right: { reader: sides.right } },
      cut: { start: 0, end: most * sampleRate },
      sampleRate,
    });
    this.player.listen(this.store.getState().side);
    this.player.seek(0);
    this.player.toggle();
    const done = this.player.store.subscribe(({ playing, position, problem }) => {
      if (this.turn !== turn) return done();
      for (const { step, performed, ...cue } of timeline.reached(position)) {
        begins = cue.begins;
        const { last, waiting } = this.store.getState();
        if (performed !== last) this.onLog(performed.log);
        this.store.setState({ playing: step.path, last: performed, waiting: waiting === step.path ? null : waiting });
      }
      this.store.setState({ place: Math.max(0, position - begins), ...(problem === null ? {} : { problem }) });
      if (playing && !timeline.isOver(position)) return;
      done();
      this.stop();
    });
  }
}
