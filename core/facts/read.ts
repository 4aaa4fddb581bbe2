import { frameCount, LevelMeter, MOST_HOURS, type Pcm, type PcmReader, soundSamples } from '../audio/index.ts';
import { type ByteFile, inMemory, Room } from '../bytes/index.ts';
import { type Container, containers, headerless, type Reading, type SoundFile, wholeIn } from '../containers/index.ts';
import { InputError } from '../words/index.ts';
import { boundStated, containerTitle, type Facts, finishFacts, type StatedFacts, statedFacts } from './facts.ts';
import { SoundMeter } from './meter.ts';

/** A file's facts and its sound. */
export interface OpenedSound {
  readonly facts: Facts;
  readonly pcm: Pcm;
}

/** A file that was understood and can be decoded from its start to its end. */
export interface SoundStream {
  readonly stated: StatedFacts;
  /** The sound in blocks of any size: one array per channel, each valid until the next block is asked for. */
  blocks(): Iterable<readonly Float32Array[]> | AsyncIterable<readonly Float32Array[]>;
  /** Reads any range without decoding what is before it; missing if that is not possible, or slow. */
  readonly reader?: PcmReader;
  /** Sentences on what showed only while decoding. Asked for when all blocks have been taken. */
  laterWarnings?(frames: number): readonly string[];
}

/** Bytes at the start of a file that are read to recognise it. */
export const HEAD_BYTES = 65_536;

export const headOf = (file: ByteFile): Uint8Array => file.read(0, Math.min(file.size, HEAD_BYTES));

/** The container, among those that core reads itself, whose files begin with `head`. */
export const recognise = (head: Uint8Array): Container | undefined =>
  containers.find((container) => container.recognises(head));

/** @throws InputError with code `empty-file` */
export function refuseEmpty(file: ByteFile): void {
  if (file.size === 0) throw new InputError('empty-file', 'The file is empty: it has 0 bytes; choose another file.');
}

/**
 * Reads a file of one of core's own containers. Bytes that none recognises are headerless and need `reading`.
 * @throws InputError if the file cannot be used
 */
export function readPlain(bytes: Uint8Array | ByteFile, reading?: Reading): SoundFile {
  const file = bytes instanceof Uint8Array ? inMemory(bytes) : bytes;
  refuseEmpty(file);
  const whole = wholeIn(file);
  if (whole) return { ...readPlain(whole.file, reading), within: { array: whole.array, bytes: whole.file.size } };
  return (recognise(headOf(file)) ?? headerless).read(file, reading);
}

/** What became of files: whoever asks first has source code compiled. */
const inMemoryOf = new WeakMap<ByteFile, ByteFile>();

/** A file as the device has it in memory: arrays in source code are compiled to their numbers. */
export function compiled(file: ByteFile): ByteFile {
  const known = inMemoryOf.get(file);
  if (known) return known;
  const text = recognise(headOf(file));
  const found = wholeIn(file)?.file ?? (text?.textOptions ? text.read(file).data : file);
  inMemoryOf.set(file, found);
  return found;
}

/** Frames decoded at a time, or one block of the encoding where that is longer. */
const FRAMES_AT_ONCE = 65_536;

/**
 * Decodes a file of one of core's own containers from its start to its end. Each block is valid until the next is asked
 * for.
 */
export function* soundBlocks({ encoding, codec: shared, data, frames }: SoundFile): Generator<Float32Array[]> {
  const codec = shared.fromStart?.() ?? shared;
  const room = new Room();
  const units = Math.max(1, Math.floor(FRAMES_AT_ONCE / codec.unitFrames));
  let left = frames;
  for (let at = 0; left > 0; at += units * codec.unitBytes) {
    const decoded = codec.decodeChannels(data.read(at, at + units * codec.unitBytes, room), room);
    const block = encoding.kind === 'float' ? decoded.map(soundSamples) : decoded;
    const count = Math.min(left, block[0]?.length ?? 0);
    if (count === 0) break;
    yield count < (block[0]?.length ?? 0) ? block.map((samples) => samples.subarray(0, count)) : block;
    left -= count;
  }
}

/** A file of one of core's own containers, ready to be decoded. `bytes` is the size of the whole file. */
export function plainStream(file: SoundFile, bytes: number): SoundStream {
  const reader = rangeReader(file);
  return {
    stated: boundStated(statedFacts(file, bytes)),
    blocks: () => soundBlocks(file),
    ...(reader ? { reader } : {}),
  };
}

/** Reads ranges of a file whose frames each have their own bytes; null for every other. */
function rangeReader({ encoding, codec, data, sampleRate, channels, frames }: SoundFile): PcmReader | null {
  if (codec.unitFrames > 1 || codec.fromStart) return null;
  return {
    sampleRate,
    channelCount: channels,
    frames,
    async read(start, count, room) {
      const bytes = data.read(start * codec.unitBytes, (start + count) * codec.unitBytes, room);
      const decoded = codec.decodeChannels(bytes, room);
      if ((decoded[0]?.length ?? 0) !== count) throw new RangeError(`the sound ends before frame ${start + count}`);
      return encoding.kind === 'float' ? decoded.map(soundSamples) : decoded;
    },
  };
}

/** Gathers blocks in memory. */
export class Gathered {
  private readonly blocks: (readonly Float32Array[])[] = [];
  private frames = 0;

  add(block: readonly Float32Array[]): void {
    // Whoever makes blocks uses their memory again.
    this.blocks.push(block.map((samples) => samples.slice()));
    this.frames += block[0]?.length ?? 0;
  }

  channels(count: number): Float32Array[] {
    if (this.blocks.length === 1) return [...(this.blocks[0] ?? [])];
    const out = Array.from({ length: count }, () => new Float32Array(this.frames));
    let at = 0;
    for (const block of this.blocks) {
      block.forEach((samples, channel) => {
        out[channel]?.set(samples, at);
      });
      at += block[0]?.length ?? 0;
    }
    return out;
  }
}

/** Decodes what `readPlain` found into memory and measures it. `bytes` is the size of the whole file. */
export function openSoundFile(file: SoundFile, bytes: number): OpenedSound {
  const stated = statedFacts(file, bytes);
  const gathered = new Gathered();
  const meter = new SoundMeter(stated);
  for (const block of soundBlocks(file)) {
    gathered.add(block);
    meter.add(block);
  }
  const pcm = { sampleRate: file.sampleRate, channels: gathered.channels(file.channels) };
  return { facts: finishFacts(stated, frameCount(pcm), meter.result(), []), pcm };
}

/** Decodes a sound from its start to its end; gives its frames. */
async function goThrough(
  { stated, blocks }: SoundStream,
  use: (block: readonly Float32Array[]) => void | Promise<void>,
): Promise<number> {
  let frames = 0;
  for await (const block of blocks()) {
    frames += block[0]?.length ?? 0;
    if (frames > MOST_HOURS * 3600 * stated.sampleRate) {
      const kind = containerTitle(stated.container);
      throw new InputError(
        'too-large',
        `The ${kind} file holds more than ${MOST_HOURS} hours of sound; cut it into parts first.`,
      );
    }
    await use(block);
  }
  return frames;
}

/**
 * Goes once through a sound: measures it, and hands each block on.
 * @throws InputError if the file cannot be used
 */
export async function surveyStream(
  stream: SoundStream,
  use: (block: readonly Float32Array[]) => void | Promise<void>,
): Promise<Facts> {
  const meter = new SoundMeter(stream.stated);
  const frames = await goThrough(stream, (block) => {
    meter.add(block);
    return use(block);
  });
  return finishFacts(stream.stated, frames, meter.result(), stream.laterWarnings?.(frames) ?? []);
}

/** Seconds at the beginning of a long sound from which its facts are estimated. */
const BEGINNING = 10;

/**
 * Facts estimated from what the file states and from its beginning; null if it does not state its length.
 * @throws InputError if the file cannot be used
 */
export async function likelyFacts({ stated, blocks }: SoundStream): Promise<Facts | null> {
  if (stated.expectedFrames === null) return null;
  const meter = new SoundMeter(stated);
  let frames = 0;
  for await (const block of blocks()) {
    meter.add(block);
    frames += block[0]?.length ?? 0;
    if (frames > BEGINNING * stated.sampleRate) break;
  }
  return finishFacts(stated, stated.expectedFrames, meter.result(), []);
}

/**
 * What was likely, with the length, the levels and the warnings of the whole sound: what a chain is settled by, sooner than
 * all facts are measured.
 * @throws InputError if the file cannot be used
 */
export async function factsOfLevels(stream: SoundStream, { measures }: Facts): Promise<Facts> {
  const levels = new LevelMeter(stream.stated.channels);
  const frames = await goThrough(stream, (block) => levels.add(block));
  const measured = { levels: levels.result(), measures };
  return finishFacts(stream.stated, frames, measured, stream.laterWarnings?.(frames) ?? []);
}

/** A sound's beginning in memory: so many seconds of it at most. */
export async function beginningOf(
  {
    stated: { sampleRate, channels },
    blocks,
  }: Pick<SoundStream, 'blocks'> & { readonly stated: Pick<StatedFacts, 'sampleRate' | 'channels'> },
  seconds: number,
): Promise<Pcm> {
  const gathered = new Gathered();
  let frames = 0;
  for await (const block of blocks()) {
    gathered.add(block);
    frames += block[0]?.length ?? 0;
    if (frames >= seconds * sampleRate) break;
  }
  return { sampleRate, channels: gathered.channels(channels) };
}

/** Decodes a stream into memory and measures it. */
export async function openStream(stream: SoundStream): Promise<OpenedSound> {
  const gathered = new Gathered();
  const facts = await surveyStream(stream, (block) => gathered.add(block));
  return { facts, pcm: { sampleRate: facts.sampleRate, channels: gathered.channels(facts.channels) } };
}

/**
 * Reads ranges of a stream, best one after the other: for a place that has gone by, everything is decoded again from
 * the start. Memory does not grow with the sound's length. What has been read is valid until the next range is asked for.
 */
export function sequentialReader({ blocks }: SoundStream, { sampleRate, channels, frames }: Facts): PcmReader {
  let coming: AsyncGenerator<readonly Float32Array[]> | null = null;
  let block: readonly Float32Array[] = [];
  /** The first frame of `block`. */
  let at = 0;
  async function* fromStart() {
    yield* blocks();
  }
  return {
    sampleRate,
    channelCount: channels,
    frames,
    async read(start, count) {
      if (!coming || start < at) {
        await coming?.return(undefined);
        coming = fromStart();
        block = [];
        at = 0;
      }
      const lengthOf = () => block[0]?.length ?? 0;
      const goOn = async (decoding: AsyncGenerator<readonly Float32Array[]>) => {
        at += lengthOf();
        const next = await decoding.next();
        if (next.done) throw new RangeError(`the sound ends before frame ${start + count}`);
        block = next.value;
      };
      while (count > 0 && start >= at + lengthOf()) await goOn(coming);
      if (start + count <= at + lengthOf()) {
        return block.map((samples) => samples.subarray(start - at, start - at + count));
      }
      const out = Array.from({ length: channels }, () => new Float32Array(count));
      for (let filled = 0; filled < count; ) {
        const from = start + filled - at;
        if (from === lengthOf()) {
          await goOn(coming);
          continue;
        }
        const take = Math.min(count - filled, lengthOf() - from);
        out.forEach((samples, channel) => {
          samples.set(block[channel].subarray(from, from + take), filled);
        });
        filled += take;
      }
      return out;
    },
  };
}
