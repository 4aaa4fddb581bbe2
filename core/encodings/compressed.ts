/**
 * Encodings that only a library writes. Core knows what each of them takes, so that stations can be settled; the library
 * itself is handed in by whoever renders.
 */
export interface CompressedEncoding {
  readonly kind: 'compressed';
  readonly id: string;
  readonly title: string;
  /** Id of the container that it is written into. */
  readonly container: string;
  /** Hz that it can carry; null for any from `leastRate` to `mostRate`. */
  readonly sampleRates: readonly number[] | null;
  readonly leastRate: number;
  readonly mostRate: number;
  readonly mostChannels: number;
  /** Bits per second that can be chosen; null where the sound decides. */
  readonly bitRates: readonly number[] | null;
  readonly usualBitRate: number;
  /** Bits of the whole numbers that it keeps exactly; null where it keeps none. */
  readonly depths: readonly number[] | null;
}

const range = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, i) => from + i);

const kbit = (rates: readonly number[]) => rates.map((rate) => rate * 1000);

/** MPEG-1, 2 and 2.5 layer III (ISO/IEC 11172-3, 13818-3; from memory). At 24 000 Hz and below 160 kbit/s is the most. */
const mp3: CompressedEncoding = {
  kind: 'compressed',
  id: 'mp3',
  title: 'MP3',
  container: 'mp3',
  sampleRates: [8000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000],
  leastRate: 8000,
  mostRate: 48_000,
  mostChannels: 2,
  bitRates: kbit([32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320]),
  usualBitRate: 192_000,
  depths: null,
};

/** AAC-LC (ISO/IEC 14496-3; from memory). */
const aac: CompressedEncoding = {
  kind: 'compressed',
  id: 'aac',
  title: 'AAC-LC',
  container: 'mp4',
  sampleRates: [8000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000],
  leastRate: 8000,
  mostRate: 48_000,
  mostChannels: 2,
  bitRates: kbit([48, 64, 80, 96, 128, 160, 192, 256]),
  usualBitRate: 128_000,
  depths: null,
};

/** FLAC (RFC 9639): lossless. */
const flac: CompressedEncoding = {
  kind: 'compressed',
  id: 'flac',
  title: 'FLAC',
  container: 'flac',
  sampleRates: null,
  leastRate: 1000,
  mostRate: 384_000,
  mostChannels: 8,
  bitRates: null,
  usualBitRate: 0,
  depths: range(8, 24),
};

const vorbis: CompressedEncoding = {
  kind: 'compressed',
  id: 'vorbis',
  title: 'Vorbis',
  container: 'ogg',
  sampleRates: null,
  leastRate: 8000,
  mostRate: 96_000,
  mostChannels: 2,
  bitRates: kbit([64, 80, 96, 112, 128, 160, 192, 256]),
  usualBitRate: 128_000,
  depths: null,
};

/** Opus (RFC 6716) runs at 48 000 Hz inside, whatever came. */
const opus: CompressedEncoding = {
  kind: 'compressed',
  id: 'opus',
  title: 'Opus',
  container: 'ogg',
  sampleRates: [48_000],
  leastRate: 48_000,
  mostRate: 48_000,
  mostChannels: 2,
  bitRates: kbit([16, 24, 32, 48, 64, 96, 128, 192, 256]),
  usualBitRate: 96_000,
  depths: null,
};

/** Every encoding that a library writes. A new one: its entry here, and its file in `codecs/encoders`. */
export const compressedEncodings: readonly CompressedEncoding[] = [mp3, aac, flac, vorbis, opus];

export const findCompressed = (id: string): CompressedEncoding | undefined =>
  compressedEncodings.find((entry) => entry.id === id);
