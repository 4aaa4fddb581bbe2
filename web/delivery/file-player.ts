import { type Facts, frameCount, messageOf, pcmReader } from '@tambur/core';
import { createStore } from 'zustand';
import { fetchBytes } from '../api/client.ts';
import { LanePlayer } from '../sound/player.ts';
import { inspectWorker } from '../sound/workers/workers.ts';

interface FilePlayerState {
  /** Path of the file that is heard. */
  readonly playing: string | null;
  readonly problem: { readonly path: string; readonly message: string } | null;
}

/** Plays delivered files: their bytes are fetched and opened again, so that what is heard is what will be carried over. */
export class FilePlayer {
  readonly store = createStore<FilePlayerState>(() => ({ playing: null, problem: null }));
  private readonly player = new LanePlayer();

  constructor() {
    this.player.store.subscribe(({ playing }, before) => {
      if (before.playing && !playing) this.store.setState({ playing: null });
    });
  }

  async toggle(path: string, facts: Facts, href: string): Promise<void> {
    const wasPlaying = this.store.getState().playing;
    this.player.stop();
    if (wasPlaying === path) return this.store.setState({ playing: null });
    this.store.setState({ playing: path, problem: null });
    try {
      const { encoding, sampleRate, channels } = facts;
      const bytes = await fetchBytes(href);
      const pcm = await inspectWorker.run((remote) => remote.open(bytes, { encoding, sampleRate, channels }));
      if (this.store.getState().playing !== path) return;
      const cut = { start: 0, end: frameCount(pcm) };
      this.player.load({ source: null, cut, lanes: { result: { reader: pcmReader(pcm) } }, sampleRate });
      this.player.seek(0);
      this.player.toggle();
    } catch (error) {
      const message = messageOf(error);
      this.store.setState({ playing: null, problem: { path, message } });
    }
  }

  close(): void {
    this.player.close();
  }
}
