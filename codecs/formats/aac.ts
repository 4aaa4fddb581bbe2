import { decoder, type RawOptions } from '@audio/decode-aac';
import type { Decoding } from './decoding.ts';

/** Object type of AAC-LC, and of the extension that doubles its rate (ISO/IEC 14496-3, table 1.17; from memory). */
const LOW_COMPLEXITY = 2;
const SPECTRAL_BAND_REPLICATION = 5;
/** Announces an extension after the plain description (ISO/IEC 14496-3, 1.6.2.1; from memory). */
const SYNC = 0x2b7;

/** From this rate down a decoder that is told nothing takes a stream for one whose rate is doubled. */
const DOUBTFUL_RATE = 24_000;

/** Hz by index (ISO/IEC 14496-3, table 1.18; from memory). */
export const AAC_RATES = [
  96_000, 88_200, 64_000, 48_000, 44_100, 32_000, 24_000, 22_050, 16_000, 12_000, 11_025, 8_000, 7_350,
];

/**
 * The description of a stream (AudioSpecificConfig) that says in so many words that its rate is not doubled. Decoders take
 * that for likely if nothing is said; where the stream itself doubles it, they find out.
 * @param channels the number of the configuration, 1 to 7
 */
export function plainDescription(object: number, rateIndex: number, channels: number): Uint8Array {
  // 5 bits of object type, 4 of rate, 4 of channels, and three flags that are 0.
  const plain = (object << 11) | (rateIndex << 7) | (channels << 3);
  const isDoubtful = object === LOW_COMPLEXITY && (AAC_RATES[rateIndex] ?? 0) <= DOUBTFUL_RATE;
  if (!isDoubtful) return Uint8Array.of(plain >> 8, plain);
  // 11 bits of announcement, 5 of object type, one that says no.
  const extension = (SYNC << 5) | SPECTRAL_BAND_REPLICATION;
  return Uint8Array.of(plain >> 8, plain, extension >> 8, extension, 0);
}

/** The description that a file has; a short one of a doubtful rate is made plain. */
export function describedPlainly(description: Uint8Array): Uint8Array {
  const [first = 0, second = 0] = description;
  const object = first >> 3;
  const rateIndex = ((first & 7) << 1) | (second >> 7);
  return description.length === 2 && object === LOW_COMPLEXITY
    ? plainDescription(object, rateIndex, (second >> 3) & 15)
    : description;
}

/** Decodes frames of AAC or ALAC that stand without a container, one at a time. */
export const rawDecoding = (options: RawOptions) => async (): Promise<Decoding> => {
  const decoding = await decoder(options);
  const step = (frame?: Uint8Array) => (frame ? decoding.decode([frame]) : decoding.flush());
  return Object.assign(step, { free: () => decoding.free() });
};
