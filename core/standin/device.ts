import type { ByteFile } from '../bytes/index.ts';
import { soundsIn, wholeIn } from '../containers/index.ts';
import { compiled, headOf, readPlain, recognise, type SoundStream } from '../facts/index.ts';
import type { ListFile, Pack } from '../lists/index.ts';
import { formatCount, formatRate, InputError } from '../words/index.ts';
import { type Card, folderIn, nameIn } from './card.ts';
import { bareReading, type Player, traitsOf } from './player.ts';
import {
  type Circumstances,
  type DeviceReading,
  type Entry,
  type FileView,
  firstFrames,
  framesOf,
  type Hear,
  isRefusal,
  type Listing,
  type Refusal,
  type Sound,
  statedOf,
  streamOf,
} from './trait.ts';

/** A device that reads cards as its class does: what it does, and which list files it looks for. */
export interface Device {
  readonly player: Player;
  readonly lists: readonly ListFile[];
  readonly packs: readonly Pack[];
}

/** A device that was given one file, wherever that lay: what it does with folders and lists says nothing then. */
export function forOneFile({ player, packs }: Device): Device {
  const { 'looks-in': _folder, keeps: _memory, order, ...rest } = player;
  return { player: order === undefined || order === 'list' ? rest : { ...rest, order }, lists: [], packs };
}

/** Opens files that no container of core's own recognises: passed in by whoever has decoders. */
export type OpenForeign = (file: ByteFile) => Promise<SoundStream>;

/** Something that a device did. */
export interface Happening {
  /** Seconds since the card came. */
  readonly at: number;
  readonly path: string;
  /** That it read so much, or played something. */
  readonly words: string;
}

/** What a device plays of a file. */
export interface Playing {
  /** Hz at which it plays. */
  readonly sampleRate: number;
  readonly channels: number;
  /** Why nothing is heard, where something else goes first. */
  readonly held: string | null;
  /** The samples as they go to its converter. */
  blocks(): AsyncGenerator<readonly Float32Array[]>;
  /** What is heard of its samples, from the first one on: as loud as it is played, and as its loudspeaker makes it. */
  hear(): Hear;
  /** All that is heard of it; nothing if it is held back. */
  heard(): AsyncGenerator<readonly Float32Array[]>;
}

/** A card in a device. */
export interface InsertedCard {
  /** What it shows, in its order. */
  readonly shown: readonly Entry[];
  readonly refused: Listing['refused'];
  /** What it has done so far, in order. */
  readonly log: readonly Happening[];
  /** The card as it sees it: of what it keeps in memory, that. */
  readonly seen: Card;
  /** @throws InputError with code `cannot-read` for an entry that it does not show */
  play(path: string, circumstances?: Partial<Circumstances>): Promise<Playing>;
}

/** Somebody plays a sound as it is, and nothing is in the way. */
const USUAL: Circumstances = {
  velocity: 1,
  isBusy: false,
  isQuiet: false,
  semitones: 0,
  letGoAfter: Number.POSITIVE_INFINITY,
  byStrike: [],
};

/** Bytes a second at which cards are read: what a slow serial bus does (common practice, no source). */
const READING_SPEED = 500_000;

/** The files of a card, and in the place of a pack the sounds that stand in it. */
const unpacked = (card: Card, packs: readonly Pack[]): Card =>
  card.flatMap((file) => {
    if (!packs.some(({ path }) => path === file.path)) return [file];
    const folder = folderIn(file.path);
    return soundsIn(file.bytes).map((bytes, i) => ({
      path: `${folder && `${folder}/`}sound ${i + 1} of ${nameIn(file.path)}`,
      bytes,
    }));
  });

/** What a file is to somebody who believes nothing but its bytes. */
export async function readHonestly(file: ByteFile, openForeign: OpenForeign): Promise<DeviceReading> {
  const bytes = wholeIn(file)?.file ?? file;
  if (recognise(headOf(bytes))) return { kind: 'samples', sound: readPlain(bytes) };
  try {
    return { kind: 'decoded', stream: await openForeign(bytes), frames: null };
  } catch (error) {
    if (error instanceof InputError && error.code === 'not-audio') return { kind: 'bare', bytes };
    throw error;
  }
}

/** The same, its frames counted: it is decoded for that. */
async function counted(taken: DeviceReading): Promise<DeviceReading> {
  if (taken.kind !== 'decoded') return taken;
  let frames = 0;
  for await (const block of taken.stream.blocks()) frames += block[0]?.length ?? 0;
  return { ...taken, frames };
}

/** Decodes nothing: for devices that play what core reads. */
export const noForeign: OpenForeign = () => {
  throw new InputError('not-audio', 'The file is of no known kind.');
};

const NOT_KNOWN: Refusal = { word: 'no sound', reason: 'The sheet does not say how this device reads bare samples.' };

/** What a device takes for sound in a file, or why it refuses it. */
export async function takeFile(
  file: ByteFile,
  behind: ByteFile | null,
  player: Player,
  openForeign: OpenForeign,
): Promise<Sound | Refusal> {
  if (file.size === 0) return { word: 'no sound', reason: 'The file is empty.' };
  const own = traitsOf(player);
  try {
    const found = await readHonestly(file, openForeign);
    const honest = own.some(({ trait }) => trait.needsFrames) ? await counted(found) : found;
    const looked: FileView = {
      file,
      bytes: compiled(file),
      honest,
      behind: behind && compiled(behind),
      bareReading: bareReading(player),
    };
    let taken = honest;
    for (const { trait, value } of own) {
      const answer = trait.take?.(value, taken, looked) ?? taken;
      if (isRefusal(answer)) return answer;
      taken = answer;
    }
    return taken.kind === 'bare' ? NOT_KNOWN : taken;
  } catch (error) {
    if (error instanceof InputError) return { word: 'damaged', reason: error.message };
    throw error;
  }
}

/** A sound as a device plays it. */
export function playingOf(taken: Sound, player: Player, circumstances: Partial<Circumstances> = {}): Playing {
  const now = { ...USUAL, ...circumstances };
  const own = traitsOf(player);
  const moments = own.map(({ trait, value }) => trait.moment?.(value, now) ?? {});
  const gain = moments.reduce((product, moment) => product * (moment.gain ?? 1), 1);
  const held = moments.find((moment) => moment.held !== undefined)?.held ?? null;
  const semitones = moments.reduce((sum, moment) => sum + (moment.semitones ?? 0), now.semitones);
  const stream = streamOf(taken);
  const { channels } = stream.stated;
  // Equal temperament: a semitone is the twelfth root of two.
  const sampleRate = stream.stated.sampleRate * 2 ** (semitones / 12);
  const length = framesOf(taken) ?? Number.POSITIVE_INFINITY;
  const ends = moments.map(({ share = 1, seconds = Number.POSITIVE_INFINITY }) =>
    Math.min(share * length, seconds * sampleRate),
  );
  const blocks = () => firstFrames(stream.blocks(), Math.ceil(Math.min(...ends)));
  const hear = (): Hear => {
    const speakers = own.flatMap(({ trait, value }) => trait.hear?.(value, { sampleRate, channels }) ?? []);
    return (block) => {
      const loud = gain === 1 ? block : block.map((samples) => samples.map((value) => gain * value));
      return speakers.reduce((sound, speaker) => speaker(sound), loud);
    };
  };
  return {
    sampleRate,
    channels,
    held,
    blocks,
    hear,
    async *heard() {
      if (held !== null) return;
      const own = hear();
      for await (const block of blocks()) yield own(block);
    },
  };
}

/** What a device looks at of files, before it has opened any of them. */
export function listingOf(files: Card, { player, lists }: Pick<Device, 'player' | 'lists'>): Listing {
  const listed = new Set(lists.map(({ path }) => path));
  const start: Listing = {
    shown: files.filter(({ path }) => !listed.has(path)).map((file) => ({ file, name: nameIn(file.path) })),
    refused: [],
  };
  return traitsOf(player).reduce<Listing>(
    (found, { trait, value }) => trait.find?.(value, found, files, lists) ?? found,
    start,
  );
}

/**
 * Puts a card into a device: what it shows, refuses and plays, from the names and bytes alone.
 * @param openForeign opens files of kinds that core does not read itself
 * @param before the card as it saw it last, where it has not been restarted since
 */
export async function insert(
  card: Card,
  { player, lists, packs }: Device,
  openForeign: OpenForeign = noForeign,
  before: Card = [],
): Promise<InsertedCard> {
  const own = traitsOf(player);
  const log: Happening[] = [];
  let at = 0;
  const reads = (path: string, bytes: number) => {
    log.push({ at, path, words: `${formatCount(bytes)} bytes read` });
    at += bytes / READING_SPEED;
  };
  const seen = own.reduce<Card>((now, { trait, value }) => trait.recall?.(value, now, before, lists) ?? now, card);
  const files = unpacked(seen, packs);
  const listed = new Set(lists.map(({ path }) => path));
  for (const { path, bytes } of seen) if (listed.has(path)) reads(path, bytes.size);
  const listing = listingOf(files, { player, lists });
  const behind = new Map(files.map((file, i) => [file, files[i + 1]?.bytes ?? null]));

  const shown: Entry[] = [];
  const refused = [...listing.refused];
  const playable = new Map<string, Sound>();
  for (const entry of listing.shown) {
    const { path, bytes } = entry.file;
    let taken = playable.get(path);
    if (!taken) {
      reads(path, bytes.size);
      const answer = await takeFile(bytes, behind.get(entry.file) ?? null, player, openForeign);
      if (isRefusal(answer)) {
        refused.push({ path, ...answer });
        continue;
      }
      taken = answer;
    }
    playable.set(path, taken);
    shown.push(entry);
  }
  return {
    shown,
    refused,
    log,
    seen,
    async play(path, circumstances) {
      const taken = playable.get(path);
      if (!taken) {
        throw new InputError('cannot-read', `The device does not show ${path}; choose one of those that it shows.`);
      }
      const played = playingOf(taken, player, circumstances);
      log.push({ at, path, words: played.held ?? playedWords(taken, player) });
      at += (framesOf(taken) ?? 0) / (statedOf(taken)?.sampleRate ?? 1);
      return played;
    },
  };
}

/** "played at 8 000 Hz, 60 blocks of 240 frames". */
function playedWords(taken: DeviceReading, { block }: Player): string {
  const frames = framesOf(taken);
  const rate = statedOf(taken)?.sampleRate ?? 0;
  if (taken.kind === 'decoded' && taken.silenced !== undefined) return `played as silence. ${taken.silenced}`;
  const length =
    frames === null
      ? ''
      : block
        ? `, ${formatCount(Math.ceil(frames / block.frames))} blocks of ${formatCount(block.frames)} frames`
        : `, ${formatCount(frames)} frames`;
  return `played at ${formatRate(rate)}${length}`;
}
