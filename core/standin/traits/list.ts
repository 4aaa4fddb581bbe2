import { assumes } from './assumes.ts';
import { block } from './block.ts';
import { extraChunks } from './extra-chunks.ts';
import { longestName } from './longest-name.ts';
import { order } from './order.ts';
import { playsAt } from './plays-at.ts';
import { reads } from './reads.ts';
import { speaker } from './speaker.ts';

/** Every trait, in the order in which the engine asks them. A new one: its file, and its line here. */
export const traits = [reads, assumes, extraChunks, longestName, order, playsAt, block, speaker] as const;
