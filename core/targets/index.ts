import { nearestName } from '../forms/index.ts';
import { InputError, shortened } from '../words/index.ts';
import { archiveCopy } from './sheets/archive-copy.ts';
import { consoleSoundSlot } from './sheets/console-sound-slot.ts';
import { deskPhoneRingTone } from './sheets/desk-phone-ring-tone.ts';
import { i2sAmplifierBoard } from './sheets/i2s-amplifier-board.ts';
import { loopPlayer } from './sheets/loop-player.ts';
import { microcontroller5BitLadder } from './sheets/microcontroller-5-bit-ladder.ts';
import { microcontroller8BitDac } from './sheets/microcontroller-8-bit-dac.ts';
import { microcontrollerPwmTimer } from './sheets/microcontroller-pwm-timer.ts';
import { mobileRingTone } from './sheets/mobile-ring-tone.ts';
import { numberedSoundModule } from './sheets/numbered-sound-module.ts';
import { percussionPadSample } from './sheets/percussion-pad-sample.ts';
import { portablePlayer } from './sheets/portable-player.ts';
import { showControllerTrack } from './sheets/show-controller-track.ts';
import { telephoneSystemMessage } from './sheets/telephone-system-message.ts';
import { transmitterSpokenCue } from './sheets/transmitter-spoken-cue.ts';
import { twoWayRadioPrompt } from './sheets/two-way-radio-prompt.ts';
import { voiceChip4Bit } from './sheets/voice-chip-4-bit.ts';
import type { Target } from './target.ts';

export { targetSchema } from './checked.ts';
export { centsBetween, partsPerMillion, TIMER_RANGES, type Timer, type TimerRate, timerRates } from './clock.ts';
export * from './demands.ts';
export { fieldOf, filledIn, sheetFor, withUsual, withVariant } from './editions.ts';
export {
  type Blank,
  type Evidence,
  type Face,
  MOST_VALUES,
  type Places,
  pathTo,
  type Value,
  type Values,
  valuesSchema,
} from './parts.ts';
export { deviceOf, disagreements, isObservable, requirementsOf } from './player.ts';
export * from './requirements/index.ts';
export { EMPTY_SHEET, FORMAT, type Target, type Variant } from './target.ts';
export { askedEncodings } from './writable.ts';

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

/** @throws InputError with code `unknown-target` */
export function targetOf(id: string): Target {
  const target = targets.find((entry) => entry.id === id);
  if (!target) {
    const known = targets.map((entry) => entry.id);
    const near = nearestName(id, known);
    throw new InputError(
      'unknown-target',
      `There is no target "${shortened(id, 80)}"${near ? `, perhaps ${near}` : ''}; choose one of: ${known.join(', ')}.`,
    );
  }
  return target;
}
