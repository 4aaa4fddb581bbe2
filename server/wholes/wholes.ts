import { mkdir, open, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { MessageChannel } from 'node:worker_threads';
import { type ClipOrder, CORE_VERSION, folderOf, InputError, type Player } from '@tambur/core';
import { notFound } from '../answers/problem.ts';
import type { WholeView } from '../answers/views.ts';
import type { BuildOutcome, BuildTask } from '../builds/worker.ts';
import type { Source } from '../models/index.ts';
import type { DataFolder, SourceFiles } from '../storage/data-folder.ts';
import { publish } from '../storage/disk.ts';
import type { SoundFacts } from '../storage/sound-file.ts';
import { hashOf } from '../work/hash.ts';
import { Once } from '../work/once.ts';
import { Threads } from '../work/threads.ts';
import type { DeviceOutcome, DeviceTask } from './device-worker.ts';

/** What a clip is to become, without the facts of its source. */
export type WholeOrder = Omit<ClipOrder, 'facts'>;

export interface WholeOptions {
  readonly signal?: AbortSignal | undefined;
  /** Told how much is done, 0..1. */
  readonly onProgress?: ((part: number) => void) | undefined;
}

/** Wholes that are kept: each takes four bytes and more for every sample. The oldest goes when another comes. */
const KEPT = 2;

/** Bytes of the file that are shown as its beginning. */
const HEAD_BYTES = 640;

/** Progress is told at most so often. */
const TELL_MS = 500;

interface Whole {
  readonly view: WholeView;
  readonly path: string;
  readonly player: Player;
  /** What its device plays, once that has been asked for. */
  heard?: SoundFacts;
}

const LIMITS = { most: 1, megabytes: 2048 };

/** The beginning of a file. */
async function headOf(path: string): Promise<Uint8Array> {
  const file = await open(path, 'r');
  try {
    const { buffer, bytesRead } = await file.read(new Uint8Array(HEAD_BYTES), 0, HEAD_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/**
 * Makes clips as a whole for a page that has no room for them, one at a time, each in a folder of its own, from which the page
 * reads in ranges. Nothing of this outlives the process.
 */
export class Wholes {
  private readonly data: DataFolder;
  private readonly threads: Threads<BuildTask, BuildOutcome>;
  private readonly devices: Threads<DeviceTask, DeviceOutcome>;
  /** The one that was asked for last comes last. */
  private readonly known = new Map<string, Whole>();
  private readonly making = new Once<Whole>();
  private readonly playing = new Once<SoundFacts>();

  constructor(data: DataFolder, buildWorker: string, deviceWorker: string) {
    this.data = data;
    this.threads = new Threads(buildWorker, LIMITS);
    this.devices = new Threads(deviceWorker, LIMITS);
  }

  /**
   * Makes a whole, or gives that which is there.
   * @throws InputError if a setting cannot be carried out; the signal's reason where it was cancelled
   */
  async make(source: Source, order: WholeOrder, options: WholeOptions = {}): Promise<WholeView> {
    const id = hashOf({ core: CORE_VERSION, source: source.key, order });
    const known = this.known.get(id) ?? (await this.making.run(id, () => this.made(id, source, order, options)));
    this.known.delete(id);
    this.known.set(id, known);
    for (const oldest of [...this.known.keys()].slice(0, -KEPT)) {
      this.known.delete(oldest);
      await rm(this.data.whole(oldest, '').folder, { recursive: true, force: true });
    }
    return known.view;
  }

  /** @throws Problem if there is no such whole, or not any more */
  find(id: string): { readonly files: SourceFiles; readonly facts: SoundFacts } {
    const { path, view } = this.whole(id);
    return { files: this.data.whole(id, path), facts: view.facts };
  }

  /**
   * Has a whole played by its device, which leaves what is heard beside it.
   * @throws InputError if the device does not show it; Problem where there is no such whole
   */
  async playOnDevice(id: string, signal?: AbortSignal): Promise<SoundFacts> {
    const whole = this.whole(id);
    whole.heard ??= await this.playing.run(id, () => this.played(id, whole, signal));
    return whole.heard;
  }

  /** @throws Problem if there is no such whole, or its device has not played it */
  findOnDevice(id: string): { readonly files: SourceFiles; readonly facts: SoundFacts } {
    const { heard } = this.whole(id);
    if (!heard) throw notFound('sound');
    return { files: this.data.onDevice(id), facts: heard };
  }

  private whole(id: string): Whole {
    const known = this.known.get(id);
    if (!known) throw notFound('result');
    return known;
  }

  private async played(id: string, { path, player }: Whole, signal?: AbortSignal): Promise<SoundFacts> {
    const unfinished = this.data.unfinishedOnDevice(id);
    try {
      await rm(unfinished.folder, { recursive: true, force: true });
      await mkdir(unfinished.folder);
      const file = this.data.whole(id, path).original;
      const task: DeviceTask = { file, player, files: unfinished };
      const outcome = await this.devices.run(task, signal ? { signal } : {});
      if ('refused' in outcome) throw new InputError('not-audio', outcome.refused);
      await publish(unfinished.folder, this.data.onDevice(id).folder);
      return outcome;
    } finally {
      await rm(unfinished.folder, { recursive: true, force: true });
    }
  }

  private async made(
    id: string,
    source: Source,
    order: WholeOrder,
    { signal, onProgress }: WholeOptions,
  ): Promise<Whole> {
    const unfinished = this.data.unfinishedWhole(id);
    const finished = this.data.whole(id, '');
    const { port1, port2 } = new MessageChannel();
    let told = 0;
    port1.on('message', (part: number) => {
      if (performance.now() - told < TELL_MS) return;
      told = performance.now();
      onProgress?.(part);
    });
    try {
      await rm(unfinished.folder, { recursive: true, force: true });
      await mkdir(join(unfinished.folder, folderOf(order.target)), { recursive: true });
      const task: BuildTask = {
        order: { ...order, facts: source.facts },
        source: this.data.source(source.key),
        reading: source.reading,
        folder: unfinished.folder,
        beside: unfinished,
        progress: port2,
      };
      const outcome = await this.threads.run(task, { ...(signal ? { signal } : {}), transferList: [port2] });
      if ('refused' in outcome) throw new InputError('bad-setting', outcome.refused);
      const { path, sha256, facts, report, findings } = outcome;
      await publish(unfinished.folder, finished.folder);
      const head = [...(await headOf(this.data.whole(id, path).original))];
      return { path, player: order.target.player, view: { id, sha256, head, facts, report, findings } };
    } finally {
      port1.close();
      await rm(unfinished.folder, { recursive: true, force: true });
    }
  }

  async close(): Promise<void> {
    await Promise.all([this.threads.close(), this.devices.close()]);
  }
}
