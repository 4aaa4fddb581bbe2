import { Channels } from './channels.tsx';
import type { Face } from './face.ts';
import { Loops } from './loops.tsx';
import { MemoryMap } from './memory-map.tsx';
import { NumberKeys } from './number-keys.tsx';
import { OnHold } from './on-hold.tsx';
import { Pads } from './pads.tsx';
import { Sequence } from './sequence.tsx';
import { StartSignal } from './start-signal.tsx';
import { SwitchPositions } from './switch-positions.tsx';
import { ToneList } from './tone-list.tsx';

/** The drawing of each face, by its id in sheets. */
export const drawings: Readonly<Record<string, Face>> = {
  list: ToneList,
  'number-keys': NumberKeys,
  pads: Pads,
  channels: Channels,
  switch: SwitchPositions,
  sequence: Sequence,
  loops: Loops,
  'start-signal': StartSignal,
  hold: OnHold,
  'memory-map': MemoryMap,
};

/** The drawing of a device of which nobody says how it is operated. */
export const USUAL_DRAWING: Face = ToneList;
