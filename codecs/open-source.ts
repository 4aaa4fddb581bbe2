import {
  type Facts,
  formatBytes,
  InputError,
  measureLevels,
  type OpenedSound,
  openSoundFile,
  type Pcm,
  type Reading,
  readPlain,
  recognise,
  refuseEmpty,
  type Tag,
} from '@tambur/core';
import decode from 'audio-decode';
import { ALL_FORMATS, BufferSource, EncodedPacketSink, Input, type InputAudioTrack } from 'mediabunny';
import { flacStreamInfo, mp3StatedBytes, mp4Boxes, oggPages } from './completeness.ts';
import { type LibraryFormat, libraryFormats } from './formats.ts';

/**
 * Opens any file that Tambur takes, in Node and in a browser worker: core's own containers, then the libraries'
 * formats. The content decides, never the name.
 * @param reading what headerless bytes are; without it, bytes of no known kind are refused
 * @throws InputError where the file cannot be used
 */
export async function openSource(bytes: Uint8Array, reading?: Reading): Promise<OpenedSound> {
  refuseEmpty(bytes);
  const format = recognise(bytes) ? undefined : libraryFormats.find((entry) => entry.recognises(bytes));
  if (format) return openWithLibrary(format, bytes);
  return openSoundFile(readPlain(bytes, reading), bytes.length);
}

async function openWithLibrary(format: LibraryFormat, bytes: Uint8Array): Promise<OpenedSound> {
  if (format.container === 'mp4' && !mp4Boxes(bytes).hasIndex) throw damaged(format);
  // The libraries give up on an Ogg file that ends inside a page.
  const whole = format.container === 'ogg' ? bytes.subarray(0, oggPages(bytes).end) : bytes;
  if (whole.length === 0) throw damaged(format);
  const stated = await readStated(format, whole);
  const decoded = await decodeWithLibrary(format, whole);
  // The library gives two equal channels as one; the file's word counts.
  const isMerged = decoded.channels.length === 1 && stated.channels === 2;
  const pcm: Pcm = isMerged ? { ...decoded, channels: [...decoded.channels, ...decoded.channels] } : decoded;
  const frames = pcm.channels[0]?.length ?? 0;
  if (frames === 0) {
    throw new InputError('no-frames', `The ${format.title} file holds no sound: it has 0 frames; choose another file.`);
  }
  const seconds = frames / pcm.sampleRate;
  const facts: Facts = {
    container: format.container,
    encoding: stated.encoding,
    sampleRate: pcm.sampleRate,
    bitDepth: format.container === 'flac' ? flacStreamInfo(bytes).bitDepth : null,
    channels: pcm.channels.length,
    frames,
    bytes: bytes.length,
    soundBytes: null,
    bitRate: Math.round(stated.bitRate || (bytes.length * 8) / seconds),
    bitRateMode: stated.bitRateMode,
    tags: stated.tags,
    extras: [],
    warnings: warningsFor(format, bytes, frames),
    certainty: 'stated',
    levels: measureLevels(pcm),
  };
  return { facts, pcm };
}

async function decodeWithLibrary(format: LibraryFormat, bytes: Uint8Array): Promise<Pcm> {
  try {
    const { channelData, sampleRate } = await decode(bytes);
    return { sampleRate, channels: channelData };
  } catch (cause) {
    throw damaged(format, cause);
  }
}

interface Stated {
  readonly encoding: string;
  readonly channels: number;
  readonly bitRate: number;
  readonly bitRateMode: Facts['bitRateMode'];
  readonly tags: readonly Tag[];
}

/** What the container says, without decoding. */
async function readStated(format: LibraryFormat, bytes: Uint8Array): Promise<Stated> {
  const input = new Input({ source: new BufferSource(bytes), formats: ALL_FORMATS });
  try {
    const track = await input.getPrimaryAudioTrack();
    const codec = track?.codec;
    if (!track || !codec) {
      throw new InputError(
        'unsupported-codec',
        `The ${format.title} file holds no sound in an encoding that Tambur can read; save it as WAV or FLAC first.`,
      );
    }
    const { averageBitrate } = await track.computePacketStats();
    return {
      encoding: codec,
      channels: track.numberOfChannels,
      bitRate: averageBitrate,
      bitRateMode:
        codec === 'mp3' ? await mp3Mode(track) : codec === 'flac' || codec === 'vorbis' ? 'variable' : 'unknown',
      tags: tagsOf(await input.getMetadataTags()),
    };
  } catch (cause) {
    if (cause instanceof InputError) throw cause;
    throw damaged(format, cause);
  } finally {
    input.dispose();
  }
}

/** Constant where every frame header states the same bit rate (bits 16 to 19; ISO/IEC 11172-3, 2.4.2.3). */
async function mp3Mode(track: InputAudioTrack): Promise<'constant' | 'variable'> {
  const rates = new Set<number>();
  for await (const packet of new EncodedPacketSink(track).packets()) rates.add((packet.data[2] ?? 0) >> 4);
  return rates.size > 1 ? 'variable' : 'constant';
}

const TAG_NAMES = ['title', 'artist', 'album', 'albumArtist', 'comment', 'genre', 'date', 'trackNumber'] as const;

function tagsOf(tags: Awaited<ReturnType<Input['getMetadataTags']>>): Tag[] {
  return TAG_NAMES.flatMap((name) => {
    const value = tags[name];
    if (value === undefined) return [];
    return [{ name, value: value instanceof Date ? value.toISOString().slice(0, 10) : String(value) }];
  });
}

function warningsFor(format: LibraryFormat, bytes: Uint8Array, frames: number): string[] {
  const cutOff = (detail: string) => [`The file is cut off: ${detail} What is there is used.`];
  if (format.container === 'flac') {
    const promised = flacStreamInfo(bytes).frames;
    if (promised > frames) return cutOff(`its header promises ${promised} frames, ${frames} are there.`);
  }
  if (format.container === 'ogg' && !oggPages(bytes).ended) return cutOff('its last page is not marked as the end.');
  if (format.container === 'mp4' && !mp4Boxes(bytes).isWhole) return cutOff('its sound ends before its index says.');
  if (format.container === 'mp3') {
    const promised = mp3StatedBytes(bytes);
    if (promised && promised > bytes.length) {
      return cutOff(`it promises ${formatBytes(promised)}, ${formatBytes(bytes.length)} are there.`);
    }
  }
  return [];
}

/** The library's own words are for developers: they stay in `cause`. */
function damaged(format: LibraryFormat, cause?: unknown): InputError {
  const error = new InputError(
    'damaged',
    `The ${format.title} file is damaged or cut off and cannot be decoded; get a complete copy of it.`,
  );
  error.cause = cause;
  return error;
}
