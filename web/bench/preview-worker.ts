import { openSource } from '@tambur/codecs';
import {
  type Chain,
  type ClipSettings,
  type Facts,
  type Finding,
  InputError,
  makeClip,
  type Pcm,
  type Reading,
  RenderCancelled,
  type RenderReport,
  resample,
  type Target,
} from '@tambur/core';
import type { SourceView } from '@tambur/server';
import * as Comlink from 'comlink';
import { sourceReader } from '../api/samples.ts';

export interface PreviewRequest {
  readonly source: SourceView;
  readonly settings: ClipSettings;
  readonly target: Target;
  readonly stem: string;
}

/** The result as it will be written, byte for byte, and everything that is said of it. */
export interface Preview {
  readonly fileName: string;
  readonly bytes: Uint8Array;
  readonly pcm: Pcm;
  readonly facts: Facts;
  readonly chain: Chain;
  readonly report: Readonly<RenderReport>;
  readonly findings: readonly Finding[];
}

/** Null: a newer request has taken its place. Errors are values, as their class is lost between threads. */
export type PreviewOutcome = { readonly made: Preview } | { readonly refused: string } | null;

/** Lets a newer request in after so many milliseconds of work. */
const BREATH_MS = 40;
const breath = () =>
  new Promise<void>((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });

let newest = 0;

const buffersOf = (pcm: Pcm): ArrayBuffer[] => pcm.channels.map((samples) => samples.buffer as ArrayBuffer);

const worker = {
  /** Makes a clip as the server would. Only the newest request is finished. */
  async preview({ source, settings, target, stem }: PreviewRequest): Promise<PreviewOutcome> {
    const mine = ++newest;
    const reader = sourceReader(source);
    let since = performance.now();
    const breathing = {
      ...reader,
      read: async (start: number, count: number) => {
        if (performance.now() - since > BREATH_MS) {
          await breath();
          since = performance.now();
        }
        return reader.read(start, count);
      },
    };
    try {
      const made = await makeClip({ facts: source.facts, reader: breathing }, settings, target, {
        stem,
        isCancelled: () => mine !== newest,
      });
      const { chain, fileName, bytes, report, opened, findings } = made;
      const preview: Preview = { fileName, bytes, pcm: opened.pcm, facts: opened.facts, chain, report, findings };
      return Comlink.transfer({ made: preview }, [bytes.buffer as ArrayBuffer, ...buffersOf(opened.pcm)]);
    } catch (error) {
      if (error instanceof RenderCancelled) return null;
      if (error instanceof InputError) return { refused: error.message };
      throw error;
    }
  },

  /** What a file is, from its bytes alone. */
  async look(bytes: Uint8Array): Promise<{ readonly facts: Facts } | { readonly refused: string }> {
    try {
      return { facts: (await openSource(bytes)).facts };
    } catch (error) {
      if (error instanceof InputError) return { refused: error.message };
      throw error;
    }
  },

  /** Opens a delivered file from its bytes, as anybody would. */
  async open(bytes: Uint8Array, reading?: Reading): Promise<Pcm> {
    const { pcm } = await openSource(bytes, reading);
    return Comlink.transfer(pcm, buffersOf(pcm));
  },

  /** The sound at the rate at which the browser plays, made by our own resampler. */
  atRate(pcm: Pcm, rate: number): Pcm {
    if (pcm.sampleRate === rate) return pcm;
    const channels = pcm.channels.map((samples) => resample(samples, pcm.sampleRate, rate));
    return Comlink.transfer(
      { sampleRate: rate, channels },
      channels.map(({ buffer }) => buffer as ArrayBuffer),
    );
  },
};

export type PreviewWorker = typeof worker;

Comlink.expose(worker);
