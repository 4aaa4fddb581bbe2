import { clamp, formatRate, messageOf, type PcmReader } from '@tambur/core';
import { createStore } from 'zustand';

/** What is heard: `source`, or the name of a lane. */
export type LaneName = string;

/** A sound beside the source, at the source's rate; its first frame is the start of the cut. */
export interface Lane {
  readonly reader: PcmReader;
  /** Linear; 1 if there is none. */
  readonly gain?: number;
}

/** What can be heard: the source, and lanes that stand for the source's part from `cut.start` to `cut.end`. */
export interface Material {
  readonly source: PcmReader | null;
  /** Linear gain of the source; 1 if there is none. */
  readonly sourceGain?: number;
  /** Frames of the source. */
  readonly cut: { readonly start: number; readonly end: number };
  /** By name, `result` among them where there is one. All of them run beside the source, so that switching needs no gap; read only when playing. */
  readonly lanes: Readonly<Record<string, Lane>>;
  /** Hz, of the source or of what takes its place. */
  readonly sampleRate: number;
}

export interface PlayerState {
  readonly playing: boolean;
  readonly heard: LaneName;
  readonly loop: boolean;
  /** In frames of the source. */
  readonly position: number;
  /** What went wrong when sound was fetched; null otherwise. */
  readonly problem: string | null;
}

/** Seconds of sound that are scheduled in one piece, and how far ahead of what is heard. */
interface Schedule {
  readonly piece: number;
  readonly ahead: number;
}

const USUAL_SCHEDULE: Schedule = { piece: 1, ahead: 2 };
/** Time constant of the change between source and result: short, but without a click. */
const CHANGE = 0.004;
/** Seconds between the call of `play` and the first sound: time to fetch and schedule. */
const LEAD = 0.06;

/**
 * Plays source and result side by side from one clock, one of them audible. The source is fetched and scheduled piece
 * by piece, so that a long file need not be loaded; all pieces start on exact frames.
 */
export class LanePlayer {
  readonly store = createStore<PlayerState>(() => ({
    playing: false,
    heard: 'result',
    loop: false,
    position: 0,
    problem: null,
  }));
  private material: Material | null = null;
  private context: AudioContext | null = null;
  private gains = new Map<LaneName, GainNode>();
  private output: GainNode | null = null;
  /** 0..1, of everything that is heard. */
  private volume = 1;
  /** Changes with each start and stop: work of an earlier one sees that it is late. */
  private turn = 0;
  private timer: ReturnType<typeof setInterval> | undefined;
  private nodes = new Set<AudioBufferSourceNode>();
  private readonly schedule: Schedule;

  /** @param schedule shorter where what is played may become another sound soon */
  constructor(schedule = USUAL_SCHEDULE) {
    this.schedule = schedule;
  }

  /** Sets what is played. Playing goes on from the same place with the new sound. */
  load(material: Material): void {
    const before = this.material;
    this.material = material;
    if (before?.source !== material.source) {
      this.stop();
      this.store.setState({ position: material.cut.start, problem: null });
      return;
    }
    // Where only gains are others, nothing has to start again.
    const { playing, position } = this.store.getState();
    if (before && isSameSound(before, material)) this.applyHeard();
    else if (playing) this.start(position);
    else if (before && before.cut.start !== material.cut.start && position === before.cut.start) {
      this.store.setState({ position: material.cut.start });
    }
  }

  toggle(): void {
    const { playing, position } = this.store.getState();
    if (playing) this.stop();
    else this.start(position);
  }

  /** Plays from a frame on, whatever is being played. */
  playFrom(position: number): void {
    this.start(position);
  }

  /** @param volume 0..1 */
  setVolume(volume: number): void {
    this.volume = volume;
    if (this.context) this.output?.gain.setTargetAtTime(volume, this.context.currentTime, CHANGE);
  }

  seek(position: number): void {
    this.store.setState({ position });
    if (this.store.getState().playing) this.start(position);
  }

  listen(heard: LaneName): void {
    this.store.setState({ heard });
    this.applyHeard();
  }

  /** Listens to something, and plays if nothing is playing. */
  hear(heard: LaneName): void {
    this.listen(heard);
    const { playing, position } = this.store.getState();
    if (!playing) this.start(position);
  }

  setLoop(loop: boolean): void {
    this.store.setState({ loop });
    const { playing, position } = this.store.getState();
    if (playing) this.start(position);
  }

  stop(): void {
    this.turn++;
    clearInterval(this.timer);
    for (const node of this.nodes) node.stop();
    this.nodes.clear();
    this.store.setState({ playing: false });
  }

  /** Ends playing for good and lets the sound device go. */
  close(): void {
    this.stop();
    void this.context?.close();
    this.context = null;
  }

  private start(from: number): void {
    this.stop();
    const { material } = this;
    if (!material) return;
    const turn = ++this.turn;
    this.store.setState({ playing: true, problem: null });
    this.begin(turn, material, from).catch((error: unknown) => turn === this.turn && this.fail(error));
  }

  private async begin(turn: number, material: Material, from: number): Promise<void> {
    // What takes a while to be there does so before the clock starts, and while the sound device is opened.
    const ready = Promise.all(
      Object.values(material.lanes).map(({ reader }) =>
        lanePiece(reader, clamp(from - material.cut.start, 0, reader.frames - 1), 1),
      ),
    );
    ready.catch(() => undefined);
    const context = this.contextFor(material.sampleRate);
    void context.resume();
    await ready;
    if (turn === this.turn) this.run(turn, context, material, from);
  }

  private fail(error: unknown): void {
    this.store.setState({ problem: messageOf(error) });
    this.stop();
  }

  private run(turn: number, context: AudioContext, material: Material, from: number): void {
    const rate = material.sampleRate;
    const { loop } = this.store.getState();
    const { piece, ahead } = this.schedule;
    const { start, end } = material.cut;
    const lanes = Object.entries(material.lanes);
    // Outside the cut the source alone is played, to its end; from its very end playing starts over.
    const first = from >= (material.source?.frames ?? end) - 1 ? start : from;
    const last = first >= start && first < end ? end : (material.source?.frames ?? end);
    const looping = loop && last === end;
    const period = material.lanes.result?.reader.frames ?? end - start;
    const begin = Math.ceil((context.currentTime + LEAD) * rate) / rate;
    this.store.setState({ position: first });
    this.applyHeard();

    let scheduled = 0;
    let busy = false;
    const total = looping ? Number.POSITIVE_INFINITY : last - first;
    /** Frame of the source that is heard `played` frames after the start. */
    const placeOf = (played: number) => (looping ? start + ((first - start + played) % period) : first + played);
    const schedule = async () => {
      busy = true;
      while (turn === this.turn && scheduled < total && begin + scheduled / rate < context.currentTime + ahead) {
        const place = placeOf(scheduled);
        const limit = looping ? start + period : last;
        const count = Math.min(Math.round(piece * rate), limit - place);
        const at = begin + scheduled / rate;
        scheduled += count;
        for (const [name, { reader }] of lanes) {
          this.schedulePiece(context, name, await lanePiece(reader, place - start, count), rate, at, turn);
        }
        this.schedulePiece(context, 'source', await sourcePiece(material, place, count), rate, at, turn);
      }
      busy = false;
    };
    const keepUp = () => {
      const played = Math.max(0, (context.currentTime - begin) * rate);
      if (played >= total) {
        this.stop();
        this.store.setState({ position: start });
        return;
      }
      this.store.setState({ position: placeOf(Math.floor(played)) });
      if (!busy) {
        schedule().catch((error: unknown) => turn === this.turn && this.fail(error));
      }
    };
    this.timer = setInterval(keepUp, 25);
    keepUp();
  }

  private schedulePiece(
    context: AudioContext,
    heard: LaneName,
    channels: readonly Float32Array[],
    rate: number,
    at: number,
    turn: number,
  ): void {
    const frames = channels[0]?.length ?? 0;
    if (frames === 0 || turn !== this.turn) return;
    const buffer = context.createBuffer(channels.length, frames, rate);
    channels.forEach((samples, channel) => {
      buffer.copyToChannel(samples as Float32Array<ArrayBuffer>, channel);
    });
    const node = new AudioBufferSourceNode(context, { buffer });
    node.connect(this.gainOf(context, heard));
    node.onended = () => this.nodes.delete(node);
    // A piece that comes late starts in its middle, so that both lanes stay together.
    const late = Math.max(0, context.currentTime - at);
    if (late * rate >= frames) return;
    node.start(at + late, late);
    this.nodes.add(node);
  }

  private applyHeard(): void {
    const { context } = this;
    if (!context) return;
    for (const [name, { gain }] of this.gains) gain.setTargetAtTime(this.loudnessOf(name), context.currentTime, CHANGE);
  }

  /** Of a lane: silent unless it is the one that is heard. */
  private loudnessOf(name: LaneName): number {
    if (this.heardLane() !== name) return 0;
    return (name === 'source' ? this.material?.sourceGain : this.material?.lanes[name]?.gain) ?? 1;
  }

  /** The lane that is heard: the result, where the one that was chosen is not there any more. */
  private heardLane(): LaneName {
    const { heard } = this.store.getState();
    return heard === 'source' || this.material?.lanes[heard] ? heard : 'result';
  }

  private gainOf(context: AudioContext, name: LaneName): GainNode {
    const known = this.gains.get(name);
    if (known) return known;
    const node = new GainNode(context, { gain: this.loudnessOf(name) });
    if (this.output) node.connect(this.output);
    this.gains.set(name, node);
    return node;
  }

  /** A context that runs at the sound's own rate: nothing is resampled piece by piece. */
  private contextFor(rate: number): AudioContext {
    if (this.context?.sampleRate === rate) return this.context;
    void this.context?.close();
    this.context = null;
    const context = openContext(rate);
    this.context = context;
    this.gains = new Map();
    this.output = new GainNode(context, { gain: this.volume });
    this.output.connect(context.destination);
    this.gainOf(context, 'source');
    return context;
  }
}

/** True if two materials differ in their gains at most. */
function isSameSound(a: Material, b: Material): boolean {
  const names = Object.keys(a.lanes);
  return (
    a.cut.start === b.cut.start &&
    a.cut.end === b.cut.end &&
    names.length === Object.keys(b.lanes).length &&
    names.every((name) => a.lanes[name]?.reader === b.lanes[name]?.reader)
  );
}

/** @throws Error in words where the browser plays no sound at such a rate */
function openContext(sampleRate: number): AudioContext {
  try {
    return new AudioContext({ sampleRate, latencyHint: 'interactive' });
  } catch (error) {
    throw new Error(`This browser cannot play sound at ${formatRate(sampleRate)}; the file itself is not affected.`, {
      cause: error,
    });
  }
}

async function lanePiece(reader: PcmReader, from: number, count: number): Promise<readonly Float32Array[]> {
  if (from < 0 || from >= reader.frames) return [];
  return reader.read(from, Math.min(count, reader.frames - from));
}

/** A piece of the source; frames after its end are silent (a loop may be longer than the cut). */
async function sourcePiece({ source, cut }: Material, place: number, count: number): Promise<readonly Float32Array[]> {
  if (!source) return [];
  const inside = place < cut.end && place >= cut.start ? cut.end : source.frames;
  const available = Math.min(count, inside - place);
  return available > 0 ? source.read(place, available) : [];
}
