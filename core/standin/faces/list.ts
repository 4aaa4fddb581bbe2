import { channels } from './channels.ts';
import type { FaceKind } from './face.ts';
import { hold } from './hold.ts';
import { loops } from './loops.ts';
import { memoryMap } from './memory-map.ts';
import { numberKeys } from './number-keys.ts';
import { pads } from './pads.ts';
import { sequence } from './sequence.ts';
import { startSignal } from './start-signal.ts';
import { switchPositions } from './switch.ts';
import { toneList } from './tone-list.ts';

/** Every face. A new one: its file, its line here, and its drawing in `web/tryout/faces`. */
export const faces: readonly FaceKind[] = [
  toneList,
  numberKeys,
  pads,
  channels,
  switchPositions,
  sequence,
  loops,
  startSignal,
  hold,
  memoryMap,
];

/** The face of a device of which nobody says how it is operated. */
export const USUAL_FACE: FaceKind = toneList;
