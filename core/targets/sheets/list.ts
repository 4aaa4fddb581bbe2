import type { Target } from '../target.ts';
import { archiveCopy } from './archive-copy.ts';
import { consoleSoundSlot } from './console-sound-slot.ts';
import { deskPhoneRingTone } from './desk-phone-ring-tone.ts';
import { i2sAmplifierBoard } from './i2s-amplifier-board.ts';
import { loopPlayer } from './loop-player.ts';
import { microcontroller5BitLadder } from './microcontroller-5-bit-ladder.ts';
import { microcontroller8BitDac } from './microcontroller-8-bit-dac.ts';
import { microcontrollerPwmTimer } from './microcontroller-pwm-timer.ts';
import { mobileRingTone } from './mobile-ring-tone.ts';
import { numberedSoundModule } from './numbered-sound-module.ts';
import { percussionPadSample } from './percussion-pad-sample.ts';
import { portablePlayer } from './portable-player.ts';
import { showControllerTrack } from './show-controller-track.ts';
import { telephoneSystemMessage } from './telephone-system-message.ts';
import { transmitterSpokenCue } from './transmitter-spoken-cue.ts';
import { twoWayRadioPrompt } from './two-way-radio-prompt.ts';
import { voiceChip4Bit } from './voice-chip-4-bit.ts';

/** The sheets that ship with Tambur. A new one: its file, and its line here. */
export const targets: readonly Target[] = [
  deskPhoneRingTone,
  telephoneSystemMessage,
  twoWayRadioPrompt,
  mobileRingTone,
  percussionPadSample,
  showControllerTrack,
  numberedSoundModule,
  transmitterSpokenCue,
  microcontroller8BitDac,
  microcontroller5BitLadder,
  microcontrollerPwmTimer,
  i2sAmplifierBoard,
  voiceChip4Bit,
  consoleSoundSlot,
  loopPlayer,
  portablePlayer,
  archiveCopy,
];
