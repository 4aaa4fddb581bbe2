import type { Encoding } from './encoding.ts';

/**
 * Encodings that only a library writes. Core knows what each of them takes, so that stations can be settled; the library
 * itself is handed in by whoever renders.
 */
export interface CompressedEncoding extends Encoding {
  readonly kind: 'compressed';
  /** Id of the container that it is written into. */
  readonly container: string;
  /** Bits per second that can be chosen; null if the sound decides. */
  readonly bitRates: readonly number[] | null;
  /** Those of them that there are at a rate, for so many channels; all, if nothing is said. */
  bitRatesAt?(format: CodedFormat): readonly number[];
  readonly usualBitRate: number;
  /** Bits of the whole numbers that it keeps exactly; null if it keeps none. */
  readonly depths: readonly number[] | null;
  /** True if the bit rate is the same all the time; otherwise it is what comes out in the mean. */
  readonly isConstant?: boolean;
  /** True if two channels can be coded together or each on its own. */
  readonly hasStereoModes?: boolean;
  /** Where a first frame may state the length: what decoders give more where it does not, in frames. */
  readonly unstated?: {
    /** By which the sound comes later. */
    readonly delay: number;
    /** By which there may be more in all. */
    readonly most: number;
  };
}

/** What is to be encoded, and how. */
export interface CodedFormat {
  /** Hz. */
  readonly sampleRate: number;
  readonly channels: number;
  /** How two channels are coded, where an encoding knows several ways. */
  readonly stereoMode: 'joint' | 'stereo';
}

const range = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, i) => from + i);

const kbit = (rates: readonly number[]) => rates.map((rate) => rate * 1000);

/** Hz of MPEG-1, 2 and 2.5, and the same of AAC up to 48 000. */
const MPEG_RATES = [8000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000];

const MP3_RATES = kbit([32, 40, 48, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320]);

/** From each rate of MP3 on, the most that the format has (ISO/IEC 11172-3, 13818-3, and its extension to lower rates). */
const MP3_MOST = [
  { from: 32_000, bitRate: 320_000 },
  { from: 16_000, bitRate: 160_000 },
  { from: 0, bitRate: 64_000 },
];

/** Of two channels coded on their own the encoder lowers the rate by itself, unless it has so many bits (measured). */
const MP3_LEAST_PLAIN = [
  { from: 48_000, bitRate: 128_000 },
  { from: 44_100, bitRate: 112_000 },
  { from: 32_000, bitRate: 80_000 },
  { from: 24_000, bitRate: 64_000 },
  { from: 22_050, bitRate: 48_000 },
  { from: 0, bitRate: 32_000 },
];

/** MPEG-1, 2 and 2.5 layer III (ISO/IEC 11172-3, 13818-3; from memory). 56 kbit/s is left out: the encoder has it not. */
export const mp3: CompressedEncoding = {
  kind: 'compressed',
  compression: 'lossy',
  id: 'mp3',
  title: 'MP3',
  container: 'mp3',
  carries: { sampleRates: MPEG_RATES, mostChannels: 2 },
  bitRates: MP3_RATES,
  bitRatesAt({ sampleRate, channels, stereoMode }) {
    const at = (table: typeof MP3_MOST) => table.find(({ from }) => sampleRate >= from)?.bitRate ?? 0;
    const least = channels === 2 && stereoMode === 'stereo' ? at(MP3_LEAST_PLAIN) : 0;
    return MP3_RATES.filter((rate) => rate >= least && rate <= at(MP3_MOST));
  },
  usualBitRate: 192_000,
  depths: null,
  isConstant: true,
  hasStereoModes: true,
  // The encoder's delay and the decoder's own; and what fills frames (LAME's; from memory).
  unstated: { delay: 576 + 529, most: 4 * 1152 },
};

/** AAC-LC (ISO/IEC 14496-3; from memory). */
export const aac: CompressedEncoding = {
  kind: 'compressed',
  compression: 'lossy',
  id: 'aac',
  title: 'AAC-LC',
  container: 'mp4',
  // Of eight the encoder moves some to the places of others (measured).
  carries: { sampleRates: MPEG_RATES, mostChannels: 7 },
  bitRates: kbit([48, 64, 80, 96, 128, 160, 192, 256]),
  usualBitRate: 128_000,
  depths: null,
};

/** FLAC (RFC 9639): lossless. */
export const flac: CompressedEncoding = {
  kind: 'compressed',
  compression: 'lossless',
  id: 'flac',
  title: 'FLAC',
  container: 'flac',
  // All rates that Tambur makes: a stream's description has 20 bits for it (RFC 9639, 8.2).
  carries: { leastRate: 1000, mostRate: 768_000, mostChannels: 8 },
  bitRates: null,
  usualBitRate: 0,
  depths: range(8, 24),
};

export const vorbis: CompressedEncoding = {
  kind: 'compressed',
  compression: 'lossy',
  id: 'vorbis',
  title: 'Vorbis',
  container: 'ogg',
  carries: { leastRate: 8000, mostRate: 96_000, mostChannels: 2 },
  bitRates: kbit([64, 80, 96, 112, 128, 160, 192, 256]),
  usualBitRate: 128_000,
  depths: null,
};

/** Opus (RFC 6716) runs at 48 000 Hz inside, whatever came. */
export const opus: CompressedEncoding = {
  kind: 'compressed',
  compression: 'lossy',
  id: 'opus',
  title: 'Opus',
  container: 'ogg',
  carries: { sampleRates: [48_000], mostChannels: 2 },
  bitRates: kbit([16, 24, 32, 48, 64, 96, 128, 192, 256]),
  usualBitRate: 96_000,
  depths: null,
};

/** Bits per second that an encoding has for a format; null if the sound decides. */
export const bitRatesAt = (encoding: CompressedEncoding, format: CodedFormat): readonly number[] | null =>
  encoding.bitRatesAt?.(format) ?? encoding.bitRates;
