import { library } from '@tambur/codecs';
import {
  Cancelled,
  type Chain,
  type Facts,
  type Finding,
  Gathered,
  makeClip,
  type Pcm,
  type RenderReport,
  resample,
  type Work,
  wholeOf,
} from '@tambur/core';
import type { SourceView } from '@tambur/server';
import * as Comlink from 'comlink';
import { sourceReader } from '../samples.ts';
import { asRefusal, buffersOf, type Refused } from './transfer.ts';

/** The result as it will be written, byte for byte, and everything that is said of it. */
export interface RenderedClip {
  readonly bytes: Uint8Array;
  readonly pcm: Pcm;
  readonly facts: Facts;
  readonly report: RenderReport;
  readonly findings: readonly Finding[];
}

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

/** Work that goes on until a newer request has come. */
function untilNewer(): Work {
  const mine = ++newest;
  let since = performance.now();
  return {
    async check() {
      if (performance.now() - since > BREATH_MS) {
        await breath();
        since = performance.now();
      }
      if (mine !== newest) throw new Cancelled();
    },
    progress: () => undefined,
  };
}

const worker = {
  /** Makes a clip as the server would. Only the newest request is finished: null says that one has taken its place. */
  async preview(source: SourceView, chain: Chain): Promise<RenderedClip | Refused | null> {
    try {
      const gathered = new Gathered();
      const options = { library, hear: (block: readonly Float32Array[]) => gathered.add(block) };
      const { file, facts, ...rest } = await makeClip(chain, sourceReader(source), untilNewer(), options);
      const bytes = wholeOf(file);
      const pcm = { sampleRate: facts.sampleRate, channels: gathered.channels(facts.channels) };
      return Comlink.transfer({ ...rest, facts, bytes, pcm }, [bytes.buffer as ArrayBuffer, ...buffersOf(pcm)]);
    } catch (error) {
      return error instanceof Cancelled ? null : asRefusal(error);
    }
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
