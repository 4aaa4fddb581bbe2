import type { Target } from '../target.ts';
import { consoleSoundSlotE4 } from './console-sound-slot-4.ts';
import { deskPhoneRingToneE3 } from './desk-phone-ring-tone-3.ts';
import { loopPlayerE4 } from './loop-player-4.ts';
import { mobileRingToneE3 } from './mobile-ring-tone-3.ts';
import { portablePlayerE3 } from './portable-player-3.ts';
import { showControllerTrackE3 } from './show-controller-track-3.ts';
import { twoWayRadioPromptE4 } from './two-way-radio-prompt-4.ts';

/**
 * Editions of the sheets that ship which asked something else than the one after them, the oldest of a sheet first: jobs made
 * for them keep what they asked. Those before the oldest asked what that one asks.
 */
export const formerSheets: readonly Target[] = [
  deskPhoneRingToneE3,
  twoWayRadioPromptE4,
  mobileRingToneE3,
  showControllerTrackE3,
  consoleSoundSlotE4,
  loopPlayerE4,
  portablePlayerE3,
];
