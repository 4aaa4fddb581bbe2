import { channels } from './channels.ts';
import { cut } from './cut.ts';
import { depth } from './depth.ts';
import { ends } from './ends.ts';
import { level } from './level.ts';
import { rate } from './rate.ts';
import { wrap } from './wrap.ts';

/** The line: every station, in the order in which sound passes. A new one: its file, and its entry here. */
export const stations = { cut, channels, rate, level, ends, depth, wrap } as const;
