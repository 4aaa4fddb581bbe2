/** The compressed formats that libraries decode, known by how their files begin. */
export interface LibraryFormat {
  /** Id of the container in facts. */
  readonly container: string;
  /** Its name in sentences. */
  readonly title: string;
  recognises(bytes: Uint8Array): boolean;
}

const text = (bytes: Uint8Array, at: number, length: number) => String.fromCharCode(...bytes.subarray(at, at + length));

/** Layer bits of an MPEG audio frame header: 01 is layer III (ISO/IEC 11172-3, 2.4.2.3); ADTS has 00 there. */
const mpegSync = (bytes: Uint8Array, layer: number) =>
  bytes[0] === 0xff && ((bytes[1] ?? 0) & 0xe0) === 0xe0 && (((bytes[1] ?? 0) >> 1) & 3) === layer;

/** Every format that a library decodes here. A new one: its entry in this list. */
export const libraryFormats: readonly LibraryFormat[] = [
  { container: 'flac', title: 'FLAC', recognises: (bytes) => text(bytes, 0, 4) === 'fLaC' },
  { container: 'ogg', title: 'Ogg', recognises: (bytes) => text(bytes, 0, 4) === 'OggS' },
  { container: 'mp4', title: 'MPEG-4', recognises: (bytes) => text(bytes, 4, 4) === 'ftyp' },
  { container: 'mp3', title: 'MP3', recognises: (bytes) => text(bytes, 0, 3) === 'ID3' || mpegSync(bytes, 1) },
  { container: 'adts', title: 'AAC', recognises: (bytes) => mpegSync(bytes, 0) },
];
