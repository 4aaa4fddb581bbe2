/** A container that only a library reads. */
export interface ForeignContainer {
  readonly id: string;
  readonly title: string;
  readonly extensions: readonly string[];
  /** True if moving pictures are what it is mostly used for. */
  readonly holdsPictures?: boolean;
}

/** Containers that libraries read and nobody here writes. A new one: its line here, and its format in `codecs/formats`. */
export const foreignContainers: readonly ForeignContainer[] = [
  { id: 'mpeg-audio', title: 'MPEG audio', extensions: ['mp2', 'mpa', 'mpga', 'mp1', 'mp3'] },
  { id: 'mov', title: 'QuickTime', extensions: ['mov', 'qt'], holdsPictures: true },
  { id: 'adts', title: 'ADTS', extensions: ['aac', 'adts'] },
  { id: 'matroska', title: 'Matroska', extensions: ['mkv', 'mka'], holdsPictures: true },
  { id: 'webm', title: 'WebM', extensions: ['webm', 'weba'], holdsPictures: true },
  { id: 'avi', title: 'AVI', extensions: ['avi'], holdsPictures: true },
  { id: 'asf', title: 'ASF', extensions: ['wma', 'asf', 'wmv'] },
  { id: 'amr', title: 'AMR', extensions: ['amr', 'awb', '3ga'] },
  {
    id: 'program-stream',
    title: 'MPEG program stream',
    extensions: ['mpg', 'mpeg', 'vob', 'm2p', 'ps'],
    holdsPictures: true,
  },
];
