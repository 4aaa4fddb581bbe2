/** What a codec number of WAVE means: its name, and the encoding that it is with samples of so many bytes; 0 if that plays no part. */
interface WaveNumber {
  readonly name: string;
  readonly encodings: Readonly<Record<number, string>>;
}

/** The codec's number stands further on, in the extended header. */
export const WAVE_EXTENSIBLE = 0xfffe;

/**
 * Codec numbers as RIFF/WAVE, AVI and ASF state them (RFC 2361, appendix A; 10, 255, 352 to 355 and from 8192 on common practice, no
 * source; all from memory).
 */
const WAVE_NUMBERS: Readonly<Record<number, WaveNumber>> = {
  1: {
    name: 'PCM',
    encodings: {
      1: 'pcm-u8',
      ...Object.fromEntries([2, 3, 4, 5, 6, 7, 8].map((bytes) => [bytes, `pcm-s${8 * bytes}le`])),
    },
  },
  2: { name: 'Microsoft ADPCM', encodings: { 0: 'ms-adpcm' } },
  3: { name: 'floating point', encodings: { 4: 'float-32le', 8: 'float-64le' } },
  6: { name: 'G.711 A-law', encodings: { 1: 'a-law' } },
  7: { name: 'G.711 mu-law', encodings: { 1: 'mu-law' } },
  10: { name: 'WMA Voice', encodings: {} },
  16: { name: 'OKI ADPCM', encodings: {} },
  17: { name: 'IMA ADPCM', encodings: { 0: 'ima-adpcm' } },
  20: { name: 'G.723 ADPCM', encodings: {} },
  23: { name: 'Dialogic OKI ADPCM', encodings: {} },
  34: { name: 'TrueSpeech', encodings: {} },
  49: { name: 'GSM 6.10', encodings: {} },
  64: { name: 'G.721 ADPCM', encodings: {} },
  66: { name: 'G.723.1', encodings: {} },
  69: { name: 'G.726 ADPCM', encodings: {} },
  80: { name: 'MPEG layer 1 or 2', encodings: { 0: 'mp2' } },
  85: { name: 'MPEG layer 3', encodings: { 0: 'mp3' } },
  100: { name: 'G.726 ADPCM', encodings: {} },
  101: { name: 'G.722 ADPCM', encodings: {} },
  255: { name: 'AAC', encodings: { 0: 'aac' } },
  352: { name: 'WMA', encodings: { 0: 'wma' } },
  353: { name: 'WMA', encodings: { 0: 'wma' } },
  354: { name: 'WMA Professional', encodings: {} },
  355: { name: 'WMA Lossless', encodings: {} },
  8192: { name: 'AC-3', encodings: { 0: 'ac3' } },
  8193: { name: 'DTS', encodings: {} },
  [WAVE_EXTENSIBLE]: { name: 'extensible', encodings: {} },
};

/** Name of a codec number, or the number itself if it is unknown. */
export const waveName = (number: number): string =>
  WAVE_NUMBERS[number]?.name ?? `codec number 0x${number.toString(16).padStart(4, '0')}`;

/** Bytes in which a sample stands: the size of a frame tells, as samples of odd depth are left-justified in whole bytes. */
export const waveSampleBytes = (frameBytes: number, channels: number, bits: number): number =>
  channels > 0 && frameBytes % channels === 0 && frameBytes * 8 >= bits * channels
    ? frameBytes / channels
    : Math.ceil(bits / 8);

/** The encoding of a codec number with samples of so many bytes; undefined if it is none that is read. */
export const waveEncoding = (number: number, bytes: number): string | undefined =>
  WAVE_NUMBERS[number]?.encodings[bytes] ?? WAVE_NUMBERS[number]?.encodings[0];

/** The codec number of an encoding; undefined if it has none. */
export function waveNumberOf(encoding: string): number | undefined {
  const found = Object.entries(WAVE_NUMBERS).find(([, { encodings }]) => Object.values(encodings).includes(encoding));
  return found && Number(found[0]);
}
