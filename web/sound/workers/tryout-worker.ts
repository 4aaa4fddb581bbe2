import { openSourceStream } from '@tambur/codecs';
import {
  beginningOf,
  type Card,
  type Circumstances,
  compiled,
  type Device,
  deviceOf,
  explainFrom,
  type Facts,
  forOneFile,
  frameCount,
  gather,
  type Happening,
  headerlessReading,
  heardFrom,
  InputError,
  type InsertedCard,
  inMemory,
  insert,
  type ListeningReport,
  LONGEST_SOURCE,
  leavesOpen,
  MOST_SECONDS as MOST_RECORDED,
  messageOf,
  notKnown,
  type Pcm,
  type Playing,
  playsRight,
  type Remedy,
  resample,
  roundsOf,
  type SymptomId,
  surveyStream,
  type Target,
  unprovedOf,
} from '@tambur/core';
import * as Comlink from 'comlink';
import { buffersOf } from './transfer.ts';

/** One file of a card, as it is handed over. */
export interface SentFile {
  readonly path: string;
  readonly bytes: Uint8Array;
}

export interface ShownEntry {
  readonly path: string;
  readonly name: string;
  /** Of the device's memory. */
  readonly bytes: number;
}

/** What a device makes of a card. */
export interface DeviceView {
  readonly shown: readonly ShownEntry[];
  readonly refused: readonly { readonly path: string; readonly word: string; readonly reason: string }[];
  readonly log: readonly Happening[];
  /** Paths of what it still has as it was on the card before. */
  readonly kept: readonly string[];
}

/**
 * What is heard of an entry, beside what the file is; both at one rate. Of what follows upon itself without a gap it is the first round, and
 * what every one after it is. Empty if nothing is heard.
 */
export interface DevicePlay {
  readonly sampleRate: number;
  readonly device: readonly Pcm[];
  readonly right: readonly Pcm[];
  readonly held: string | null;
  /** Seconds after which it ends here, where the device plays more of it; null otherwise. */
  readonly cutAfter: number | null;
  /** Hz at which the device plays. */
  readonly playsAt: number;
  readonly log: readonly Happening[];
}

/** A cause as the page shows it. */
export interface ShownCause {
  readonly id: string;
  readonly title: string;
  readonly strength: number;
  readonly seen: string;
  readonly tellApart: string;
  readonly mend: {
    readonly words: string;
    readonly where: Remedy['where'];
    readonly station: string | null;
    readonly wish: 'automatic' | Readonly<Record<string, unknown>> | null;
  };
  readonly canBeHeard: boolean;
}

/** What the bytes do not tell, with the small file that settles it. */
export interface ShownUnproved {
  readonly title: string;
  readonly fileName: string;
  readonly mend: string;
}

export interface ShownAnswer {
  readonly causes: readonly ShownCause[];
  /** The most frequent first. */
  readonly unproved: readonly ShownUnproved[];
  readonly answer: string;
  readonly atTheDevice: readonly string[];
}

/** Hz at which the page plays. */
const PLAYED_AT = 48_000;
/** Hz at which every browser plays, where it is a whole number (Web Audio API, BaseAudioContext: createBuffer). */
const PLAYABLE = { least: 8000, most: 96_000 };
/** Seconds of an entry that are heard. */
const MOST_SECONDS = 120;

let card: Card = [];
let device: Device | null = null;
let target: Target | null = null;
let isWhole = true;
/** Which device it is: another one has nothing in its memory. */
let which = '';
let inserted: InsertedCard | null = null;
let gathered: { readonly path: string; readonly evidence: Awaited<ReturnType<typeof gather>> } | null = null;

const here = () => {
  if (!device || !inserted) throw new Error('no card has been put in');
  return { device, inserted };
};

const sheetHere = () => {
  if (!target) throw new Error('no card has been put in');
  return target;
};

/** What of a file the sheet says nothing of. */
const unknownOf = (path: string) => (facts: Facts) => (target ? notKnown(target, facts, path, isWhole) : []);

/** What is heard of a sound once, as the page plays it. */
function heardOnce(sound: Pcm, hear: ReturnType<Playing['hear']>, sampleRate = PLAYED_AT): Pcm {
  // The resampler takes whole rates; a note's rate is none.
  const from = Math.round(sound.sampleRate);
  return { sampleRate, channels: hear(sound.channels).map((samples) => resample(samples, from, sampleRate)) };
}

/** The part of a sound that is heard here, and whether there is more of it. */
async function heardPart(stream: Parameters<typeof beginningOf>[0]): Promise<{ sound: Pcm; isCut: boolean }> {
  const sound = await beginningOf(stream, MOST_SECONDS + 1);
  const most = Math.round(MOST_SECONDS * sound.sampleRate);
  const channels = sound.channels.map((samples) => samples.subarray(0, most));
  return { sound: { ...sound, channels }, isCut: frameCount(sound) > most };
}

const partOf = (playing: Playing) => heardPart({ stated: playing, blocks: () => playing.blocks() });

/** The sound of a source; null if its bytes alone do not say what it is: then it tells nothing of a rate. */
async function soundOfSource(source: Uint8Array): Promise<Pcm | null> {
  try {
    return await beginningOf(await openSourceStream(inMemory(source)), LONGEST_SOURCE);
  } catch (error) {
    if (error instanceof InputError) return null;
    throw error;
  }
}

/** @param source what the file was made of, where that is at hand */
const evidenceOf = async (path: string, source?: Uint8Array) => {
  const situation = { card, path, isWhole, openForeign: openSourceStream, notKnown: unknownOf(path), ...here() };
  if (gathered?.path !== path || source) {
    const pcm = source && (await soundOfSource(source));
    gathered = { path, evidence: await gather({ ...situation, ...(pcm ? { source: pcm } : {}) }) };
  }
  return gathered.evidence;
};

const worker = {
  /** Puts a card into a device; one that has not been restarted remembers what it had before. */
  async insert(
    files: readonly SentFile[],
    sheet: Target,
    { id, whole, isRestarted }: { readonly id: string; readonly whole: boolean; readonly isRestarted: boolean },
  ): Promise<DeviceView> {
    const before = isRestarted || !inserted || which !== id ? [] : inserted.seen;
    which = id;
    card = files.map(({ path, bytes }) => ({ path, bytes: inMemory(bytes) }));
    target = sheet;
    const own = deviceOf(sheet);
    device = own;
    isWhole = whole;
    gathered = null;
    inserted = await insert(card, whole ? own : forOneFile(own), openSourceStream, before);
    const { shown, refused, log } = inserted;
    const kept = inserted.seen.flatMap((file, i) => (file === card[i] ? [] : [file.path]));
    return {
      shown: shown.map(({ file: { path, bytes }, name }) => ({ path, name, bytes: compiled(bytes).size })),
      refused,
      log: [...log],
      kept,
    };
  },

  /** Of what the device shows, that for which its sheet does not say what it does. */
  async notKnown(): Promise<readonly { readonly path: string; readonly words: string }[]> {
    const { inserted: own } = here();
    if (!target || !leavesOpen(target)) return [];
    const reading = headerlessReading(target);
    const found: { readonly path: string; readonly words: string }[] = [];
    for (const { file } of own.shown) {
      try {
        const stream = await openSourceStream(file.bytes, reading ? { reading } : {});
        const facts = await surveyStream(stream, () => undefined);
        found.push(...unknownOf(file.path)(facts).map((words) => ({ path: file.path, words })));
      } catch (error) {
        // What cannot be read is refused, and said there.
        if (!(error instanceof InputError)) throw error;
      }
    }
    return found;
  },

  /**
   * What is heard of an entry as one operates the device.
   * @param followed Hz of what it follows on
   */
  async play(
    path: string,
    circumstances: Partial<Circumstances>,
    isRepeated: boolean,
    followed?: number,
  ): Promise<DevicePlay> {
    const { inserted: own } = here();
    const playing = await own.play(path, circumstances);
    const { held, sampleRate: playsAt } = playing;
    // A round is played at its own rate where that can be: changed to another one it would hardly ever have a whole number of frames.
    const isOwn = isRepeated && Number.isInteger(playsAt) && playsAt >= PLAYABLE.least && playsAt <= PLAYABLE.most;
    const sampleRate = followed ?? (isOwn ? playsAt : PLAYED_AT);
    const rounds = (sound: Pcm, hear: ReturnType<Playing['hear']>) =>
      isRepeated ? roundsOf(sound, hear, sampleRate) : [heardOnce(sound, hear, sampleRate)];
    const played = held === null ? await partOf(playing) : null;
    const device = played ? rounds(played.sound, playing.hear()) : [];
    const file = own.seen.find((entry) => entry.path === path);
    const stream = file ? await playsRight(file.bytes, here().device.player, openSourceStream) : null;
    const right = stream ? rounds((await heardPart(stream)).sound, (block) => block) : [];
    const cutAfter = played?.isCut ? MOST_SECONDS : null;
    const performed = { sampleRate, device, right, held, cutAfter, playsAt, log: [...own.log] };
    return Comlink.transfer(performed, [...device, ...right].flatMap(buffersOf));
  },

  /** What may be behind what one hears or sees of a file. */
  async explain(path: string, symptom: SymptomId, source?: Uint8Array): Promise<ShownAnswer> {
    const evidence = await evidenceOf(path, source);
    const { causes, answer, atTheDevice } = await explainFrom(symptom, evidence);
    return {
      answer,
      atTheDevice,
      unproved: unprovedOf(symptom, evidence, sheetHere()).map(({ title, fileName, mend }) => ({
        title,
        fileName,
        mend: mend.words,
      })),
      causes: causes.map(({ cause, strength, seen: figures, mend, heard }) => ({
        id: cause.id,
        title: cause.title,
        strength,
        seen: figures,
        tellApart: cause.tellApart,
        mend: { words: mend.words, where: mend.where, station: mend.station ?? null, wish: mend.wish ?? null },
        canBeHeard: heard !== undefined,
      })),
    };
  },

  /** The small file that settles something that the bytes do not tell. */
  async fileFor(path: string, symptom: SymptomId, fileName: string): Promise<Blob> {
    const all = unprovedOf(symptom, await evidenceOf(path), sheetHere());
    const file = await all.find((one) => one.fileName === fileName)?.make();
    if (!file) throw new Error('there is no such file');
    return new Blob([new Uint8Array(file.read(0, file.size))]);
  },

  /** What a cause would sound like. */
  async hear(path: string, symptom: SymptomId, causeId: string): Promise<Pcm> {
    const { causes } = await explainFrom(symptom, await evidenceOf(path));
    const heard = causes.find(({ cause }) => cause.id === causeId)?.heard;
    if (!heard) throw new Error('nothing is heard of that');
    const playing = heard();
    const pcm = heardOnce((await partOf(playing)).sound, playing.hear());
    return Comlink.transfer(pcm, buffersOf(pcm));
  },

  /** What the device did with a file, from a recording of it. */
  async listen(
    path: string,
    recording: Uint8Array,
    source?: Uint8Array,
  ): Promise<ListeningReport | { readonly refused: string }> {
    try {
      const heard = await beginningOf(await openSourceStream(inMemory(recording)), MOST_RECORDED);
      return await heardFrom(await evidenceOf(path, source), heard);
    } catch (error) {
      if (error instanceof InputError) return { refused: messageOf(error) };
      throw error;
    }
  },
};

export type TryoutWorker = typeof worker;

Comlink.expose(worker);
