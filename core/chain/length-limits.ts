import { formatCount, formatLength, formatSeconds } from '../audio/index.ts';
import { containerOf } from '../containers/index.ts';
import { encodingOf } from '../encodings/index.ts';
import { demandsOf, type SettledDemands, type Target } from '../targets/index.ts';

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
  readonly encoding: string;
}

/** Most frames that fit into so many bytes; null for text, whose size depends on the samples. */
function framesIn(bytes: number, { sampleRate, channels, container, encoding: id }: FileKind): number | null {
  const encoding = encodingOf(id);
  const frameBytes = encoding.bytesPerSample * channels;
  const sizeOf = (frames: number): number | null => {
    const dataBytes = frames * frameBytes;
    const packing = { encoding, sampleRate: Math.round(sampleRate), channels, frames, stem: 'x', storageAttribute: '' };
    const writer = containerOf(container).write({ ...packing, dataBytes });
    const oneFrame = new Uint8Array(frameBytes);
    if (writer.body(oneFrame).length !== frameBytes) return null;
    return writer.head.length + dataBytes + writer.tail().length;
  };
  const empty = sizeOf(0);
  if (empty === null) return null;
  let frames = Math.max(1, Math.floor((bytes - empty) / frameBytes));
  // An odd size is made even in some containers.
  while (frames > 1 && (sizeOf(frames) ?? 0) > bytes) frames--;
  return frames;
}

/** The limit that binds: of several the one that allows least. Null where the sheet has none. */
export function bindingLimit(demands: SettledDemands, kind: FileKind): LengthLimit | null {
  const { frames, seconds, fileBytes } = demands;
  const limits: LengthLimit[] = [];
  const { sampleRate } = kind;
  if (frames?.value.most) {
    limits.push({ frames: frames.value.most, sampleRate, text: formatLength(frames.value.most, sampleRate) });
  }
  if (seconds?.value.most) {
    const most = Math.floor(seconds.value.most * sampleRate + 1e-6);
    limits.push({ frames: most, sampleRate, text: formatLength(most, sampleRate) });
  }
  if (fileBytes) {
    const most = framesIn(fileBytes.value, kind);
    if (most !== null) {
      const text = `${formatCount(fileBytes.value)} bytes, in effect ${formatSeconds(most / sampleRate)}`;
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
 * Null where there are not two, or where the sheet leaves open what the size depends on.
 */
export function limitInEffect(target: Pick<Target, 'requirements'>): LengthLimit | null {
  const demands = demandsOf(target);
  const { frames, seconds, fileBytes, sampleRates, channelCounts, containers, encodings } = demands;
  const several = [frames?.value.most, seconds?.value.most, fileBytes?.value].filter(Boolean).length > 1;
  if (!several || !sampleRates || !containers || !encodings) return null;
  return bindingLimit(demands, {
    sampleRate: sampleRates.value[0],
    channels: channelCounts?.value[0] ?? 1,
    container: containers.value[0],
    encoding: encodings.value[0],
  });
}
