import { type ByteFile, InputError } from '../audio/index.ts';
import { soundsIn, wholeIn } from '../containers/index.ts';
import { compiled, headOf, plainStream, readPlain, recognise, type SoundStream } from '../facts/index.ts';
import type { ListFile, Pack } from '../lists/index.ts';
import { type Card, type CardFile, nameIn } from './card.ts';
import { type Player, traitsOf } from './player.ts';
import { type Entry, isRefusal, type Listing, type Looked, type Refusal, type Taken } from './trait.ts';

/** A device that reads cards as its class does: what it does, and which list files it looks for. */
export interface Device {
  readonly player: Player;
  readonly lists: readonly ListFile[];
  readonly packs: readonly Pack[];
}

/** Opens files that no container of core's own recognises: passed in by whoever has decoders. */
export type OpenForeign = (file: ByteFile) => Promise<SoundStream>;

/** A read of the card, as a device's log has it. */
export interface Asked {
  readonly path: string;
  readonly bytes: number;
}

/** What a device plays of a file. */
export interface Playing {
  /** Hz at which it plays. */
  readonly sampleRate: number;
  readonly channels: number;
  /** The samples as they go to its converter. */
  blocks(): SoundStream['blocks'] extends () => infer B ? B : never;
  /** The same as its loudspeaker makes it. */
  heard(): AsyncGenerator<readonly Float32Array[]>;
}

/** A card in a device. */
export interface Inserted {
  /** What it shows, in its order. */
  readonly shown: readonly Entry[];
  readonly refused: Listing['refused'];
  /** What it asked the card for, in order. */
  readonly log: readonly Asked[];
  /** @throws InputError with code `cannot-read` for an entry that it does not show */
  play(path: string): Promise<Playing>;
}

/** The files of a card, and in the place of a pack the sounds that stand in it. */
const unpacked = (card: Card, packs: readonly Pack[]): Card =>
  card.flatMap((file) =>
    packs.some(({ path }) => path === file.path)
      ? soundsIn(file.bytes).map((bytes, i) => ({ path: `${file.path}, sound ${i + 1}`, bytes }))
      : [file],
  );

/** What a file is to somebody who believes nothing but its bytes. */
async function honestly(file: CardFile, openForeign: OpenForeign): Promise<Taken> {
  const bytes = wholeIn(file.bytes)?.file ?? file.bytes;
  if (recognise(headOf(bytes))) return { kind: 'samples', sound: readPlain(bytes) };
  try {
    return { kind: 'decoded', stream: await openForeign(bytes) };
  } catch (error) {
    if (error instanceof InputError && error.code === 'not-audio') return { kind: 'bare', bytes };
    throw error;
  }
}

/** Decodes nothing: for devices that play what core reads. */
export const noForeign: OpenForeign = () => {
  throw new InputError('not-audio', 'The file is of no known kind.');
};

/**
 * Puts a card into a device: what it shows, refuses and plays, from the names and bytes alone.
 * @param openForeign opens files of kinds that core does not read itself
 */
export async function insert(
  card: Card,
  { player, lists, packs }: Device,
  openForeign: OpenForeign = noForeign,
): Promise<Inserted> {
  const own = traitsOf(player);
  const log: Asked[] = [];
  const listed = new Set(lists.map(({ path }) => path));
  const files = unpacked(card, packs);
  const start: Listing = {
    shown: files.filter(({ path }) => !listed.has(path)).map((file) => ({ file, name: nameIn(file.path) })),
    refused: [],
  };
  for (const { path } of lists) {
    const file = card.find((entry) => entry.path === path);
    if (file) log.push({ path, bytes: file.bytes.size });
  }
  const listing = own.reduce<Listing>(
    (found, { trait, value }) => trait.find?.(value, found, files, lists) ?? found,
    start,
  );

  const take = async (file: CardFile): Promise<Taken | Refusal> => {
    log.push({ path: file.path, bytes: file.bytes.size });
    if (file.bytes.size === 0) return { word: 'no sound', reason: 'The file is empty.' };
    try {
      const next = files[files.indexOf(file) + 1];
      const looked: Looked = {
        bytes: compiled(file.bytes),
        honest: await honestly(file, openForeign),
        behind: next ? compiled(next.bytes) : null,
      };
      let taken = looked.honest;
      for (const { trait, value } of own) {
        const answer = trait.take?.(value, taken, looked) ?? taken;
        if (isRefusal(answer)) return answer;
        taken = answer;
      }
      return taken;
    } catch (error) {
      if (error instanceof InputError) return { word: 'damaged', reason: error.message };
      throw error;
    }
  };

  const shown: Entry[] = [];
  const refused = [...listing.refused];
  const playable = new Map<string, Taken>();
  for (const entry of listing.shown) {
    const { path } = entry.file;
    const taken = playable.get(path) ?? (await take(entry.file));
    if (isRefusal(taken)) refused.push({ path, ...taken });
    else if (taken.kind === 'bare') {
      refused.push({ path, word: 'no sound', reason: 'Nobody knows what this device takes bare samples for.' });
    } else {
      playable.set(path, taken);
      shown.push(entry);
    }
  }
  return {
    shown,
    refused,
    log,
    async play(path) {
      const taken = playable.get(path);
      if (!taken || taken.kind === 'bare') {
        throw new InputError('cannot-read', `The device does not show ${path}; choose one of those that it shows.`);
      }
      const stream = taken.kind === 'samples' ? plainStream(taken.sound, taken.sound.data.size) : taken.stream;
      const { sampleRate, channels } = stream.stated;
      return {
        sampleRate,
        channels,
        blocks: () => stream.blocks(),
        async *heard() {
          const speakers = own.flatMap(({ trait, value }) => trait.hear?.(value, { sampleRate, channels }) ?? []);
          for await (const block of stream.blocks()) {
            yield speakers.reduce<readonly Float32Array[]>((sound, hear) => hear(sound), block);
          }
        },
      };
    },
  };
}
