import { array } from './array.ts';
import { bars } from './bars.ts';
import { bitDepth } from './bit-depth.ts';
import { bitRate } from './bit-rate.ts';
import { byteLayout } from './byte-layout.ts';
import { channels } from './channels.ts';
import { container } from './container.ts';
import { dcOffset } from './dc-offset.ts';
import { duration } from './duration.ts';
import { encoding } from './encoding.ts';
import { extension } from './extension.ts';
import { fileCount } from './file-count.ts';
import { fileSize } from './file-size.ts';
import { folder } from './folder.ts';
import { frames } from './frames.ts';
import { listFile } from './list-file.ts';
import { loudness } from './loudness.ts';
import { name } from './name.ts';
import { nothingElse } from './nothing-else.ts';
import { peak } from './peak.ts';
import { placeDuration } from './place-duration.ts';
import { sampleRate } from './sample-rate.ts';
import { setDuration } from './set-duration.ts';
import { setSize } from './set-size.ts';
import { silence } from './silence.ts';
import { stereoMode } from './stereo-mode.ts';
import { tags } from './tags.ts';
import { timerRate } from './timer-rate.ts';

/** Every kind of requirement. A new one: its file, and its line here. */
export const kinds = [
  container,
  array,
  encoding,
  bitDepth,
  byteLayout,
  sampleRate,
  timerRate,
  channels,
  stereoMode,
  bitRate,
  frames,
  duration,
  placeDuration,
  bars,
  silence,
  fileSize,
  peak,
  loudness,
  dcOffset,
  tags,
  extension,
  name,
  folder,
  setSize,
  setDuration,
  fileCount,
  listFile,
  nothingElse,
] as const;
