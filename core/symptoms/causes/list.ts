import type { Cause } from '../cause.ts';
import { ofTraits } from '../without.ts';
import { chunkPlayed } from './chunk-played.ts';
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
import { wrongByteOrder } from './wrong-byte-order.ts';
import { wrongChannels } from './wrong-channels.ts';
import { wrongEncoding } from './wrong-encoding.ts';
import { wrongExtension } from './wrong-extension.ts';
import { wrongLaw } from './wrong-law.ts';
import { wrongOrder } from './wrong-order.ts';
import { wrongRate } from './wrong-rate.ts';
import { wrongSign } from './wrong-sign.ts';

/** What looks at more than one trait, or at the sound. A new one: its file, and its line here. */
const own: readonly Cause[] = [
  chunkPlayed,
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
  wrongByteOrder,
  wrongChannels,
  wrongEncoding,
  wrongExtension,
  wrongLaw,
  wrongOrder,
  wrongRate,
  wrongSign,
];

/** Every cause, those too that traits give as data. Of two that are equally strong the one whose name comes first is said first. */
export const causes: readonly Cause[] = [...own, ...ofTraits].toSorted((a, b) => (a.id < b.id ? -1 : 1));
