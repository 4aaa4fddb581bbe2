import { assumes } from './assumes.ts';
import { block } from './block.ts';
import { compiles } from './compiles.ts';
import { extraChunks } from './extra-chunks.ts';
import { finds } from './finds.ts';
import { holds } from './holds.ts';
import { keeps } from './keeps.ts';
import { letGo } from './let-go.ts';
import { locks } from './locks.ts';
import { longestName } from './longest-name.ts';
import { longestSound } from './longest-sound.ts';
import { looksIn } from './looks-in.ts';
import { mostSounds } from './most-sounds.ts';
import { names } from './names.ts';
import { onTheBar } from './on-the-bar.ts';
import { order } from './order.ts';
import { playsAt } from './plays-at.ts';
import { playsBitRates } from './plays-bit-rates.ts';
import { playsChannels } from './plays-channels.ts';
import { playsContainers } from './plays-containers.ts';
import { playsEncodings } from './plays-encodings.ts';
import { playsRates } from './plays-rates.ts';
import { priority } from './priority.ts';
import { quiet } from './quiet.ts';
import { reads } from './reads.ts';
import { speaker } from './speaker.ts';
import { strikes } from './strikes.ts';
import { timer } from './timer.ts';

/** Every trait, in the order in which the engine asks them. A new one: its file, and its line here. */
export const traits = [
  keeps,
  looksIn,
  finds,
  longestName,
  names,
  order,
  mostSounds,
  holds,
  compiles,
  reads,
  assumes,
  playsContainers,
  extraChunks,
  playsEncodings,
  playsChannels,
  playsRates,
  playsBitRates,
  playsAt,
  timer,
  block,
  longestSound,
  onTheBar,
  locks,
  strikes,
  letGo,
  priority,
  quiet,
  speaker,
] as const;
