import { driftIn, type Pcm } from '../audio/index.ts';
import { type ByteFile, partOf } from '../bytes/index.ts';
import { headerless, type Reading, type SoundFile, wholeIn } from '../containers/index.ts';
import { blockEncodings, encodings } from '../encodings/index.ts';
import {
  beginningOf,
  type Facts,
  likelyReadings,
  plainStream,
  type SoundStream,
  type StatedFacts,
  surveyStream,
} from '../facts/index.ts';
import {
  bareReading,
  type Card,
  type CardFile,
  type Device,
  type Entry,
  filledBlock,
  forOneFile,
  type InsertedCard,
  insert,
  isRefusal,
  type OpenForeign,
  type Player,
  type Refusal,
  readHonestly,
  type Sound,
  streamOf,
  takeFile,
  takenAs,
} from '../standin/index.ts';
import { InputError } from '../words/index.ts';
import { predictability } from './measures.ts';
import { ownRate } from './own-rate.ts';

/** A file of a card, and the device that it is for. */
export interface Situation {
  readonly card: Card;
  readonly path: string;
  readonly device: Device;
  /** Of what is wrong with a file of these facts, that for which it is not known what the device does then: a sentence each. */
  readonly notKnown?: (facts: Facts) => readonly string[];
  /** True if the card is all that the device has; false for a file from anywhere. */
  readonly isWhole: boolean;
  readonly openForeign: OpenForeign;
  /** The card in its device, where somebody has put it in: for one file from anywhere in `forOneFile` of it. */
  readonly inserted?: InsertedCard;
  /** The sound that the file was made of, where that is at hand. */
  readonly source?: Pcm;
}

/** What the bytes of a file are, whoever reads them. */
interface Truth {
  readonly sound: SoundStream;
  /** The encoded samples; null of what a library decodes. */
  readonly plain: SoundFile | null;
  /** Bytes in front of the samples, and after them, in what the device has in its memory. */
  readonly inFront: number;
  readonly behind: number;
  /** How it is known: the file says so, it is likely from the bytes, or nothing speaks against what the device takes it for. */
  readonly how: 'stated' | 'likely' | 'agreed';
}

/** All that causes look at, worked out once. */
export interface Evidence {
  readonly situation: Situation;
  readonly player: Player;
  readonly file: CardFile;
  readonly inserted: InsertedCard;
  /** As the device shows it; null if it does not. */
  readonly shown: Entry | null;
  readonly refusal: Refusal | null;
  /** What the device takes for sound in the file, wherever that is and whatever it is called; or why it refuses that. */
  readonly answer: Sound | Refusal;
  /** Null if nobody can tell what the bytes are. */
  readonly truth: Truth | null;
  readonly stated: StatedFacts | null;
  /** Measured of what the bytes are. */
  readonly facts: Facts | null;
  /** The sound that the bytes are; a minute of it at most. */
  readonly sound: Pcm | null;
  /** What the device plays of it, before its loudspeaker; null if it refuses it. */
  readonly played: Pcm | null;
  /** How the device reads the bytes, where it reads them itself. */
  readonly taken: Reading | null;
}

/** Seconds that are looked at. */
export const LOOKED_AT = 60;

/** Bits of information in a byte by which one reading has to be better than another to be believed rather than it. */
const CLEARLY_FEWER_BITS = 0.35;
/** Share of its power that a sound may have below what is heard; a decoder that has lost its way wanders off. */
const MOST_DRIFT = 0.05;
/** A reading that wanders so many times less is believed instead. */
const FAR_LESS_DRIFT = 5;

/** What bare bytes are likely to be, where that is not what the device takes them for. */
async function likelierThan(file: ByteFile, assumed: Reading): Promise<Reading | null> {
  // ADPCM is told below: by how its decoder wanders, which says more of one file than how little its codes tell.
  const likely = likelyReadings(file, 0, encodings);
  const [best] = likely;
  const own = likely.find(
    ({ reading }) => reading.encoding === assumed.encoding && reading.channels === assumed.channels,
  );
  if (!best) return null;
  const asBest = { ...best.reading, sampleRate: assumed.sampleRate };
  if (own && own !== best && own.bitsPerByte - best.bitsPerByte >= CLEARLY_FEWER_BITS) return asBest;
  // What is noise however it is read may be steps of ADPCM.
  if (own) return best.bitsPerByte > NOISE_BITS ? steadyAdpcm(file, assumed) : null;
  const drift = await driftOf(file, assumed);
  if (drift === null) return null;
  // Codes of four bits look like noise to any other reading; samples that are smooth are none of those.
  if (best.bitsPerByte < SMOOTH_BITS && (await smoothnessOf(file, assumed)) < ROUGH_DB) return asBest;
  if (drift < MOST_DRIFT) return null;
  let steadiest: { readonly reading: Reading; readonly wanders: number } | null = null;
  for (const encoding of [best.reading.encoding, ...blockEncodings.map(({ id }) => id)]) {
    const reading = { ...assumed, encoding };
    const wanders = await driftOf(file, reading);
    if (wanders !== null && wanders < (steadiest?.wanders ?? drift / FAR_LESS_DRIFT)) steadiest = { reading, wanders };
  }
  return steadiest?.reading ?? null;
}

/** Bits of information in a byte: above, a reading is like noise; below, it is clearly sound. */
const NOISE_BITS = 7.2;
const SMOOTH_BITS = 6.5;
/** dB by which each sample of a sound tells the next at least. */
const ROUGH_DB = 5;
/** A decoder of ADPCM that reads its own codes hardly wanders. */
const STEADY_DRIFT = 0.02;

/** The ADPCM that bytes may be, if its decoder keeps to the middle; null otherwise. */
async function steadyAdpcm(file: ByteFile, assumed: Reading): Promise<Reading | null> {
  for (const { id } of blockEncodings) {
    const reading = { ...assumed, encoding: id };
    const drift = await driftOf(file, reading);
    if (drift !== null && drift < STEADY_DRIFT && (await smoothnessOf(file, reading)) > ROUGH_DB) return reading;
  }
  return null;
}

/** How well samples tell the next, in dB, if bytes are read like that; infinite if they cannot be. */
const smoothnessOf = async (file: ByteFile, reading: Reading): Promise<number> =>
  (await firstSamples(file, reading, predictability)) ?? Number.POSITIVE_INFINITY;

/** Bytes of which that is worked out. */
const JUDGED_BYTES = 65_536;

/** How far bytes wander if they are read like that; null if they cannot be. */
const driftOf = (file: ByteFile, reading: Reading): Promise<number | null> =>
  firstSamples(file, reading, (samples) => driftIn(samples, reading.sampleRate));

/** Something about the first samples of bytes if they are read like that; null if they cannot be. */
const firstSamples = (
  file: ByteFile,
  reading: Reading,
  measure: (samples: Float32Array) => number,
): Promise<number | null> =>
  orNull(() => {
    const { codec } = headerless.read(file, reading);
    const [samples] = codec.decodeChannels(file.read(0, Math.min(file.size, JUDGED_BYTES)));
    return samples ? measure(samples) : null;
  });

/** True if bytes, read like that, are a part of a sound at some rate: then nothing else is likelier. */
async function isOfSource(bytes: ByteFile, reading: Reading, source: Pcm): Promise<boolean> {
  const sound = await beginningOf(plainStream(headerless.read(bytes, reading), bytes.size), LOOKED_AT);
  return ownRate(sound, source) !== null;
}

async function truthOf(
  file: ByteFile,
  player: Player,
  { openForeign, source }: Pick<Situation, 'openForeign' | 'source'>,
): Promise<Truth> {
  const { size } = wholeIn(file)?.file ?? file;
  const found = await readHonestly(file, openForeign);
  if (found.kind === 'decoded') return { sound: found.stream, plain: null, inFront: 0, behind: 0, how: 'stated' };
  if (found.kind === 'samples') {
    const { sound: plain } = found;
    // Of source code nothing but the samples comes into the device's memory.
    const inFront = plain.dataAt ?? 0;
    const behind = plain.dataAt === undefined ? 0 : size - inFront - plain.data.size;
    return { sound: plainStream(plain, size), plain, inFront, behind, how: 'stated' };
  }
  const agreed = bareReading(player);
  if (!agreed) throw new InputError('not-audio', 'The file does not say what its sound is; write it with a header.');
  const other = await likelierThan(found.bytes, agreed);
  const likely = other && source && (await isOfSource(found.bytes, agreed, source)) ? null : other;
  const plain = headerless.read(found.bytes, likely ?? agreed);
  const behind = size - plain.data.size;
  return { sound: plainStream(plain, size), plain, inFront: 0, behind, how: likely ? 'likely' : 'agreed' };
}

/** What an `InputError` stands in the way of is null. */
async function orNull<T>(make: () => T | Promise<T>): Promise<T | null> {
  try {
    return await make();
  } catch (error) {
    if (error instanceof InputError) return null;
    throw error;
  }
}

/** Works out all that causes look at. */
export async function gather(situation: Situation): Promise<Evidence> {
  const { card, path, isWhole, openForeign } = situation;
  const device = isWhole ? situation.device : forOneFile(situation.device);
  const { player } = device;
  const file = card.find((entry) => entry.path === path);
  if (!file) throw new InputError('cannot-read', `${path} is not on the card; name one of its files.`);
  const inserted = situation.inserted ?? (await insert(card, device, openForeign));
  const answer = await takeFile(file.bytes, null, player, openForeign);
  const truth = await orNull(() => truthOf(file.bytes, player, situation));
  const facts = truth && (await orNull(() => surveyStream(truth.sound, () => undefined)));
  const sound = facts && truth && (await beginningOf(truth.sound, LOOKED_AT));
  const isBare = player.reads === 'bare' || (player.reads === 'either' && truth?.how !== 'stated');
  return {
    situation,
    player,
    file,
    inserted,
    answer,
    shown: inserted.shown.find((entry) => entry.file.path === path) ?? null,
    refusal: inserted.refused.find((entry) => entry.path === path) ?? null,
    truth,
    stated: truth?.sound.stated ?? null,
    facts,
    sound,
    played: isRefusal(answer) ? null : await orNull(() => beginningOf(streamOf(answer), LOOKED_AT)),
    taken: (isBare && bareReading(player)) || null,
  };
}

/** How the bytes of the true sound would be played if only these things about them were taken otherwise. */
export async function asIf({ truth }: Evidence, otherwise: Partial<Reading>): Promise<SoundStream | null> {
  const plain = truth?.plain;
  const taken = plain && (await orNull(() => takenAs(plain, otherwise)));
  return taken ? plainStream(taken, taken.data.size) : null;
}

/** What a device that took the file's encoding for what it is would play in front of its samples and behind them. */
export async function asPlayed({ truth, file, player }: Evidence): Promise<{
  readonly front: Float32Array | null;
  readonly behind: Float32Array | null;
}> {
  const plain = truth?.plain;
  if (!plain) return { front: null, behind: null };
  const decoded = (data: ByteFile) =>
    orNull(() => {
      const { codec, data: bytes } = takenAs({ ...plain, data }, {});
      return codec.decodeChannels(bytes.read(0, bytes.size))[0] ?? null;
    });
  const { block } = player;
  const filled = block && plain.frames % block.frames ? filledBlock(plain, block, null).data : null;
  return {
    front: truth.inFront > 0 ? await decoded(partOf(file.bytes, 0, truth.inFront)) : null,
    behind: filled && (await decoded(partOf(filled, plain.data.size, filled.size))),
  };
}

/** What a file really holds, whatever the device makes of it; null if nobody can tell. */
export const playsRight = async (
  file: ByteFile,
  player: Player,
  openForeign: OpenForeign,
): Promise<SoundStream | null> => (await orNull(() => truthOf(file, player, { openForeign })))?.sound ?? null;
