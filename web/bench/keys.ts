import { stationIds } from '@tambur/core';
import type { Key } from '../ui/acts.ts';

/** Every key of the bench, in the order in which they are explained. */
export const KEYS = {
  play: { keys: 'space', shown: 'Space', does: 'Play, or pause' },
  playCut: { keys: 'p', shown: 'P', does: 'Play the cut from its start' },
  playEnd: { keys: 'e', shown: 'E', does: 'Play its end; with the loop, across the seam' },
  source: { keys: 's', shown: 'S', does: 'Hear the source' },
  result: { keys: 'r', shown: 'R', does: 'Hear the result' },
  device: { keys: 'd', shown: 'D', does: 'Hear it on the device' },
  loop: { keys: 'l', shown: 'L', does: 'Loop, or not' },
  startHere: { keys: 'i', shown: 'I', does: 'Start the cut at the playhead' },
  endHere: { keys: 'o', shown: 'O', does: 'End the cut at the playhead' },
  split: { keys: 'x', shown: 'X', does: 'Split the clip at the playhead' },
  zoomIn: { keys: 'equal, shift+equal, add', shown: '+', does: 'See the source from nearer' },
  zoomOut: { keys: 'minus, subtract', shown: '−', does: 'See it from farther' },
  showCut: { keys: 'c', shown: 'C', does: 'Show the cut' },
  showAll: { keys: '0', shown: '0', does: 'Show the whole source' },
  align: { keys: 't', shown: 'T', does: 'Both lanes on one axis of time, or each on its own' },
  left: { keys: 'comma', shown: ',', does: 'Move the view to what is before' },
  right: { keys: 'period', shown: '.', does: 'Move the view to what follows' },
  stations: {
    keys: '1,2,3,4,5,6,7,8,9',
    shown: `1 … ${stationIds.length}`,
    does: 'Open a station, or close it; while alternatives are compared, hear one',
  },
  take: { keys: 'a', shown: 'A', does: 'Take the alternative that is heard' },
  undo: { keys: 'mod+z', shown: 'Ctrl Z', does: 'Undo' },
  redo: { keys: 'mod+shift+z, mod+y', shown: 'Ctrl Shift Z', does: 'Redo' },
  build: { keys: 'b', shown: 'B', does: 'Build the set' },
  palette: { keys: 'mod+k', shown: 'Ctrl K', does: 'Find whatever can be done' },
  help: { keys: '?, shift+?', shown: '?', does: 'Show these keys' },
} as const satisfies Record<string, Key>;

/** "Play, or pause (Space)": what is said of a button that has a key. */
export const withKey = (words: string, key: keyof typeof KEYS): string => `${words} (${KEYS[key].shown})`;
