import {
  type ClipOrder,
  type ClipSettings,
  type FoundTempo,
  frameCount,
  type MeasuredClip,
  makeClip,
  type Pcm,
  pcmReader,
  type Spectrogram,
  settle,
  spectrogramOf,
  TEMPO_SECONDS,
  tempoOf,
  UNROUNDED_ENCODING,
  USUAL_CONTAINER,
  unwatched,
} from '@tambur/core';
import type { SourceView } from '@tambur/server';
import * as Comlink from 'comlink';
import { sourceReader } from '../samples.ts';
import { type Spectrum, spectrumOfCut, spectrumOfSound } from '../spectrum.ts';
import { asRefusal, type Refused } from './transfer.ts';

/** Of a spectrogram: about as many as a screen has pixels for. */
const GRID = { columns: 320, rows: 128 } as const;

/** What of a level's wish changes the sound itself. */
const filtersOf = ({ removeDc, highPass, telephoneBand }: Exclude<ClipSettings['level'], 'automatic'>) => ({
  ...(removeDc === undefined ? {} : { removeDc }),
  ...(highPass === undefined ? {} : { highPass }),
  ...(telephoneBand === undefined ? {} : { telephoneBand }),
});

const worker = {
  /** What a clip's sound is before its level is changed and its depth is reduced: for evening out a set. */
  async measure(source: SourceView, order: ClipOrder): Promise<MeasuredClip | Refused> {
    const { level } = order.settings;
    const settings: ClipSettings = {
      ...order.settings,
      level: { ...(level === 'automatic' ? {} : filtersOf(level)), gainDb: 0 },
      wrap: { container: USUAL_CONTAINER, encoding: UNROUNDED_ENCODING },
    };
    try {
      const { facts } = await makeClip(settle({ ...order, settings }), sourceReader(source), unwatched);
      return { loudness: facts.measures.loudness, truePeak: facts.measures.truePeak };
    } catch (error) {
      return asRefusal(error);
    }
  },

  /** Long-term spectra of a cut of a source, and of a sound. */
  spectrumOfCut: (source: SourceView, start: number, end: number): Promise<Spectrum> =>
    spectrumOfCut(sourceReader(source), start, end),
  spectrumOfSound: (pcm: Pcm): Promise<Spectrum> => spectrumOfSound(pcm),

  /** The tempo that a cut of a source may have; null if nothing repeats. */
  async tempoOfCut(source: SourceView, start: number, end: number): Promise<FoundTempo | null> {
    const count = Math.min(end - start, TEMPO_SECONDS * source.facts.sampleRate);
    return tempoOf(await sourceReader(source).read(start, count), source.facts.sampleRate);
  },

  /** Levels by time and frequency, of a cut of a source and of a sound, up to `top` Hz. */
  spectrogramOfCut: (source: SourceView, start: number, end: number, top: number): Promise<Spectrogram> =>
    spectrogramOf(sourceReader(source), { ...GRID, start, end, top }),
  spectrogramOfSound: (pcm: Pcm, top: number): Promise<Spectrogram> =>
    spectrogramOf(pcmReader(pcm), { ...GRID, start: 0, end: frameCount(pcm), top }),
};

export type MeasureWorker = typeof worker;

Comlink.expose(worker);
