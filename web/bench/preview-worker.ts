import { library, openSource, openSourceStream } from '@tambur/codecs';
import {
  type Chain,
  type ClipSettings,
  type Facts,
  type Finding,
  Gathered,
  headerless,
  InputError,
  inMemory,
  likelyReadings,
  type MeasuredClip,
  makeClip,
  openSoundFile,
  type Pcm,
  type Reading,
  RenderCancelled,
  type RenderReport,
  resample,
  surveyStream,
  type Target,
  wholeOf,
} from '@tambur/core';
import type { SourceView } from '@tambur/server';
import * as Comlink from 'comlink';
import { sourceReader } from '../api/samples.ts';
import { type Spectrum, spectrumOfCut, spectrumOfSound } from './spectrum.ts';

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

/** What of a level's wish changes the sound itself. */
const filtersOf = ({ removeDc, highPass, telephoneBand }: Exclude<ClipSettings['level'], 'automatic'>) => ({
  ...(removeDc === undefined ? {} : { removeDc }),
  ...(highPass === undefined ? {} : { highPass }),
  ...(telephoneBand === undefined ? {} : { telephoneBand }),
});

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
      const gathered = new Gathered();
      const made = await makeClip({ facts: source.facts, reader: breathing }, settings, target, {
        stem,
        library,
        isCancelled: () => mine !== newest,
        hear: (block) => gathered.add(block),
      });
      const { file, facts, ...rest } = made;
      const bytes = wholeOf(file);
      const pcm = { sampleRate: facts.sampleRate, channels: gathered.channels(facts.channels) };
      return Comlink.transfer({ made: { ...rest, facts, bytes, pcm } }, [
        bytes.buffer as ArrayBuffer,
        ...buffersOf(pcm),
      ]);
    } catch (error) {
      if (error instanceof RenderCancelled) return null;
      if (error instanceof InputError) return { refused: error.message };
      throw error;
    }
  },

  /** What a clip's sound is before its level is changed and its depth is reduced: for evening out a set. */
  async measure({
    source,
    settings,
    target,
    stem,
  }: PreviewRequest): Promise<MeasuredClip | { readonly refused: string }> {
    const { level } = settings;
    const plain: ClipSettings = {
      ...settings,
      level: { ...(level === 'automatic' ? {} : filtersOf(level)), gainDb: 0 },
      wrap: { container: 'wav', encoding: 'float-32le' },
    };
    try {
      const made = await makeClip({ facts: source.facts, reader: sourceReader(source) }, plain, target, { stem });
      const { loudness, truePeak } = made.facts.measures;
      return { loudness, truePeak };
    } catch (error) {
      if (error instanceof InputError) return { refused: error.message };
      throw error;
    }
  },

  /** Long-term spectra of a cut of a source, and of a sound. */
  spectrumOfCut: (source: SourceView, start: number, end: number): Promise<Spectrum> =>
    spectrumOfCut(sourceReader(source), start, end),
  spectrumOfSound: (pcm: Pcm): Promise<Spectrum> => spectrumOfSound(pcm),

  /** What a file is, from its bytes alone; null where the page has not the decoder to tell. */
  async look(
    bytes: Uint8Array,
    reading?: Reading,
  ): Promise<{ readonly facts: Facts } | { readonly refused: string; readonly code: string } | null> {
    try {
      const stream = await openSourceStream(inMemory(bytes), { reading });
      return { facts: await surveyStream(stream, () => undefined) };
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      return error.code === 'damaged' ? null : { refused: error.message, code: error.code };
    }
  },

  /** What headerless bytes may be, the likeliest first. */
  likelyReadings: (bytes: Uint8Array, skip: number) => likelyReadings(inMemory(bytes), skip),

  /** Headerless bytes, decoded as somebody says. Errors are values, as their class is lost between threads. */
  readAs(bytes: Uint8Array, reading: Reading): { readonly pcm: Pcm } | { readonly refused: string } {
    try {
      const { pcm } = openSoundFile(headerless.read(inMemory(bytes), reading), bytes.length);
      return Comlink.transfer({ pcm }, buffersOf(pcm));
    } catch (error) {
      if (error instanceof InputError) return { refused: error.message };
      throw error;
    }
  },

  /** Opens a delivered file from its bytes, as anybody would. */
  async open(bytes: Uint8Array, reading?: Reading): Promise<Pcm> {
    const { pcm } = await openSource(bytes, { reading });
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
