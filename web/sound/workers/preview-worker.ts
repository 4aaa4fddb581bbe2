import { library } from '@tambur/codecs';
import {
  Cancelled,
  type Chain,
  type Facts,
  type Finding,
  Gathered,
  heldByPiece,
  makeClip,
  type Pcm,
  pieceOf,
  type RenderReport,
  resample,
  Stages,
  unwatched,
  type Work,
  wholeOf,
} from '@tambur/core';
import type { SourceView } from '@tambur/server';
import * as Comlink from 'comlink';
import type { Cut } from '../cut.ts';
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

/** A piece of a clip: its own part of the result, and that at the source's rate, as it is played. */
export interface RenderedPiece extends RenderedClip {
  readonly heard: Pcm;
}

/** Seconds that are made on either side of a piece and left away: there it begins and ends like a sound of its own. */
const MARGIN = 0.1;

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

/** Takes how much of the work is done, 0..1. */
type TellPart = (part: number) => void;

/** Told of progress at most so often. */
const TOLD_MS = 500;

/** Work that goes on until a newer request has come. */
function untilNewer(told: TellPart = () => undefined): Work {
  const mine = ++newest;
  let since = performance.now();
  let last = since;
  return {
    async check() {
      if (performance.now() - since > BREATH_MS) {
        await breath();
        since = performance.now();
      }
      if (mine !== newest) throw new Cancelled();
    },
    progress(part) {
      if (performance.now() - last < TOLD_MS) return;
      last = performance.now();
      told(part);
    },
  };
}

/** Of the source whose clip was made last. */
let known: { readonly source: string; readonly stages: Stages } | null = null;

function stagesOf({ id }: SourceView): Stages {
  if (known?.source !== id) known = { source: id, stages: new Stages() };
  return known.stages;
}

async function rendered(
  source: SourceView,
  chain: Chain,
  work: Work,
  stages?: { readonly stages: Stages },
): Promise<RenderedClip> {
  const gathered = new Gathered();
  const options = { library, ...stages, hear: (block: readonly Float32Array[]) => gathered.add(block) };
  const { file, facts, ...rest } = await makeClip(chain, sourceReader(source), work, options);
  const pcm = { sampleRate: facts.sampleRate, channels: gathered.channels(facts.channels) };
  return { ...rest, facts, bytes: wholeOf(file), pcm };
}

const worker = {
  /** Makes a clip as the server would. Only the newest request is finished: null says that one has taken its place. */
  async preview(
    source: SourceView,
    chain: Chain,
    told?: TellPart & Comlink.ProxyMarked,
  ): Promise<RenderedClip | Refused | null> {
    try {
      const clip = await rendered(source, chain, untilNewer(told), { stages: stagesOf(source) });
      return Comlink.transfer(clip, [clip.bytes.buffer as ArrayBuffer, ...buffersOf(clip.pcm)]);
    } catch (error) {
      return error instanceof Cancelled ? null : asRefusal(error);
    } finally {
      (told as Partial<Comlink.ProxyMethods> | undefined)?.[Comlink.releaseProxy]?.();
    }
  },

  /** Makes a piece of a clip, whatever else is asked for. */
  async piece(source: SourceView, chain: Chain, { start, end }: Cut): Promise<RenderedPiece | Refused> {
    try {
      const { cut, rate } = chain.stations;
      const margin = Math.round(MARGIN * source.facts.sampleRate);
      const range = { start: Math.max(cut.plan.start, start - margin), end: Math.min(cut.plan.end, end + margin) };
      const clip = await rendered(source, pieceOf(chain, range).chain, unwatched);
      const scale = rate.plan.to / rate.plan.from;
      const own = (pcm: Pcm, perFrame: number): Pcm => {
        const [from, to] = [start, end].map((frame) => Math.round((frame - range.start) * perFrame));
        return { ...pcm, channels: pcm.channels.map((samples) => samples.slice(from, to)) };
      };
      const { sampleRate } = source.facts;
      const heard = {
        sampleRate,
        channels: clip.pcm.channels.map((samples) => resample(samples, clip.pcm.sampleRate, sampleRate)),
      };
      const findings = heldByPiece(chain.order.target, clip.findings);
      const piece = { ...clip, findings, pcm: own(clip.pcm, scale), heard: own(heard, 1) };
      const buffers = [clip.bytes.buffer as ArrayBuffer, ...buffersOf(piece.pcm), ...buffersOf(piece.heard)];
      return Comlink.transfer(piece, buffers);
    } catch (error) {
      return asRefusal(error);
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
