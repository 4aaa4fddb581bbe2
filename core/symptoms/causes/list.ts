import type { Cause } from '../cause.ts';
import { chunkPlayed } from './chunk-played.ts';
import { chunkRefused } from './chunk-refused.ts';
import { clipped } from './clipped.ts';
import { cutInSound } from './cut-in-sound.ts';
import { damaged } from './damaged.ts';
import { dcOffset } from './dc-offset.ts';
import { deadSide } from './dead-side.ts';
import { fewHighs } from './few-highs.ts';
import { headerPlayed } from './header-played.ts';
import { hiddenFile } from './hidden-file.ts';
import { keptOld } from './kept-old.ts';
import { lateStart } from './late-start.ts';
import { lowLevel } from './low-level.ts';
import { memoryFull } from './memory-full.ts';
import { nameTooLong } from './name-too-long.ts';
import { noHeader } from './no-header.ts';
import { offTheBar } from './off-the-bar.ts';
import { oppositePhase } from './opposite-phase.ts';
import { partBlock } from './part-block.ts';
import { silentFile } from './silent-file.ts';
import { staleList } from './stale-list.ts';
import { startLost } from './start-lost.ts';
import { startsInSound } from './starts-in-sound.ts';
import { textFile } from './text-file.ts';
import { tooLarge } from './too-large.ts';
import { tooLong } from './too-long.ts';
import { tooMany } from './too-many.ts';
import { wrongBitRate } from './wrong-bit-rate.ts';
import { wrongByteOrder } from './wrong-byte-order.ts';
import { wrongChannels } from './wrong-channels.ts';
import { wrongContainer } from './wrong-container.ts';
import { wrongEncoding } from './wrong-encoding.ts';
import { wrongExtension } from './wrong-extension.ts';
import { wrongFolder } from './wrong-folder.ts';
import { wrongLaw } from './wrong-law.ts';
import { wrongName } from './wrong-name.ts';
import { wrongOrder } from './wrong-order.ts';
import { wrongRate } from './wrong-rate.ts';
import { wrongSign } from './wrong-sign.ts';

/** Every cause. A new one: its file, and its line here. */
export const causes: readonly Cause[] = [
  chunkPlayed,
  chunkRefused,
  clipped,
  cutInSound,
  damaged,
  dcOffset,
  deadSide,
  fewHighs,
  headerPlayed,
  hiddenFile,
  keptOld,
  lateStart,
  lowLevel,
  memoryFull,
  nameTooLong,
  noHeader,
  offTheBar,
  oppositePhase,
  partBlock,
  silentFile,
  startsInSound,
  staleList,
  startLost,
  textFile,
  tooLarge,
  tooLong,
  tooMany,
  wrongBitRate,
  wrongByteOrder,
  wrongChannels,
  wrongContainer,
  wrongEncoding,
  wrongExtension,
  wrongFolder,
  wrongLaw,
  wrongName,
  wrongOrder,
  wrongRate,
  wrongSign,
];
