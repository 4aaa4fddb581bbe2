import { adts } from './adts.ts';
import { amr } from './amr.ts';
import { asf } from './asf.ts';
import { avi } from './avi.ts';
import { dts } from './dts.ts';
import { flac } from './flac.ts';
import type { LibraryFormat } from './format.ts';
import { matroska } from './matroska.ts';
import { mp4 } from './mp4.ts';
import { mpegAudio } from './mpeg-audio.ts';
import { ogg } from './ogg.ts';
import { programStream } from './program-stream.ts';

/**
 * Every format that libraries decode. A new one: its file, and its line here. The first that recognises a file reads it;
 * those with the weakest marks stand last.
 */
export const libraryFormats: readonly LibraryFormat[] = [
  flac,
  ogg,
  matroska,
  avi,
  asf,
  amr,
  programStream,
  mp4,
  dts,
  adts,
  mpegAudio,
];
