import { containerOf } from '../containers/index.ts';
import { bytesOf, codecOf, findCompressed, layoutOf, plainEncodingOf } from '../encodings/index.ts';
import { hertz } from '../numbers/index.ts';
import { type Asking, demandsOf, type SettledDemands } from '../targets/index.ts';
import { formatCount, formatLength, formatSeconds } from '../words/index.ts';

/** The most frames that a sheet allows, and the words for it. */
export interface LengthLimit {
  readonly frames: number;
  /** Hz. */
  readonly sampleRate: number;
  /** "4.000 s, 32 000 frames" or "56 000 bytes, in effect 3.497 s". */
  readonly text: string;
}

/** What a file will be, as far as its size depends on it. */
export interface FileKind {
  readonly sampleRate: number;
  readonly channels: number;
  readonly container: string;
  /** Form of source code in whose array the whole file stands; null or left out for none. */
  readonly array?: string | null;
  readonly encoding: string;
  readonly compressed?: { readonly bitRate: number } | null;
}

/** What stands in a compressed file beside its sound, in bytes, at most, where there are no tags. */
export const LIBRARY_OVERHEAD = 4000;

/** Most frames that fit into so many bytes; null if the size depends on the samples: text, lossless compression. */
export function framesInFile(bytes: number, kind: FileKind): number | null {
  const { sampleRate, channels, container, encoding: id, compressed } = kind;
  if (compressed) {
    if (!compressed.bitRate) return null;
    return Math.max(1, Math.floor(((bytes - LIBRARY_OVERHEAD) * 8 * sampleRate) / compressed.bitRate));
  }
  const encoding = plainEncodingOf(id);
  const layout = layoutOf(encoding, channels, Math.round(sampleRate));
  const { unitBytes, unitFrames } = codecOf(encoding, layout);
  const sizeOf = (frames: number): number | null => {
    const dataBytes = bytesOf(encoding, frames, layout);
    const packing = { encoding, sampleRate: Math.round(sampleRate), channels, frames, stem: 'x', dataBytes };
    const writer = containerOf(container).write(packing);
    if (frames === 0 && writer.body(new Uint8Array(unitBytes)).length !== unitBytes) return null;
    return writer.head.length + dataBytes + writer.tail().length;
  };
  const empty = sizeOf(0);
  if (empty === null) return null;
  let units = Math.max(1, Math.floor((bytes - empty) / unitBytes));
  // An odd size is made even in some containers.
  while (units > 1 && (sizeOf(units * unitFrames) ?? 0) > bytes) units--;
  return units * unitFrames;
}

/** Most frames whose encoded samples take so many bytes; null if the samples decide. */
function framesOfData(bytes: number, { sampleRate, channels, encoding: id, compressed }: FileKind): number | null {
  if (compressed) return compressed.bitRate ? Math.floor((bytes * 8 * sampleRate) / compressed.bitRate) : null;
  const encoding = plainEncodingOf(id);
  const { unitBytes, unitFrames } = codecOf(encoding, layoutOf(encoding, channels, Math.round(sampleRate)));
  return Math.max(1, Math.floor(bytes / unitBytes) * unitFrames);
}

/** The limit that binds: of several the one that allows least. Null if the sheet has none. */
export function bindingLimit(demands: SettledDemands, kind: FileKind): LengthLimit | null {
  const { frames, seconds, fileBytes, setBytes, setSeconds } = demands;
  const limits: LengthLimit[] = [];
  const { sampleRate } = kind;
  if (frames?.value.most) {
    limits.push({ frames: frames.value.most, sampleRate, text: formatLength(frames.value.most, sampleRate) });
  }
  const { most: ofAny = null, mostOfStereo = null } = seconds?.value ?? {};
  const own = [ofAny, kind.channels > 1 ? mostOfStereo : null, setSeconds?.value ?? null].filter(
    (most) => most !== null,
  );
  if (own.length > 0) {
    const most = Math.floor(Math.min(...own) * sampleRate + 1e-6);
    limits.push({ frames: most, sampleRate, text: formatLength(most, sampleRate) });
  }
  // Of a text the size depends on its numbers.
  if (fileBytes && !kind.array) {
    const most = framesInFile(fileBytes.value, kind);
    if (most !== null) {
      const text = `${formatCount(fileBytes.value)} bytes, in effect ${formatSeconds(most / sampleRate)}`;
      limits.push({ frames: most, sampleRate, text });
    }
  }
  if (setBytes) {
    // All of a file in an array is in the device's memory.
    const most = kind.array ? framesInFile(setBytes.value, kind) : framesOfData(setBytes.value, kind);
    if (most !== null) {
      const text = `${formatCount(setBytes.value)} bytes for the whole set, in effect ${formatSeconds(most / sampleRate)}`;
      limits.push({ frames: most, sampleRate, text });
    }
  }
  return limits.reduce<LengthLimit | null>(
    (least, limit) => (least && least.frames <= limit.frames ? least : limit),
    null,
  );
}

/**
 * The limit that binds where a file is what the sheet asks for first, if it has several: what they come to together.
 * Null if there are not two, or where the sheet leaves open what the size depends on.
 */
export function limitInEffect(target: Asking): LengthLimit | null {
  const demands = demandsOf(target);
  const { frames, seconds, fileBytes, sampleRates, channelCounts, containers, encodings } = demands;
  const several = [frames?.value.most, seconds?.value.most, fileBytes?.value].filter(Boolean).length > 1;
  if (!several || !sampleRates || !containers || !encodings || findCompressed(encodings.value[0])) return null;
  return bindingLimit(demands, {
    sampleRate: hertz(sampleRates.value[0]),
    channels: channelCounts?.value[0] ?? 1,
    container: containers.value[0],
    encoding: encodings.value[0],
  });
}
