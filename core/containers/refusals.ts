import { LARGEST_RATE, MOST_CHANNELS } from '../audio/index.ts';
import { formatBytes, InputError } from '../words/index.ts';

/** Refusals and warnings that every reader has in common, each one sentence. `kind` is what the file is called: "WAV". */

export const headerCutOff = (kind: string, where: string): InputError =>
  new InputError('header-cut-off', `The ${kind} file ends ${where}; get a complete copy of it.`);

export const unsupported = (kind: string, what: string): InputError =>
  new InputError(
    'unsupported-codec',
    `The ${kind} file holds ${what}, which Tambur cannot read; save it as PCM first.`,
  );

export const damagedHeader = (kind: string, states: string): InputError =>
  new InputError('damaged', `The ${kind} file's header states ${states}; save it again from its source.`);

export const noFrames = (kind: string): InputError =>
  new InputError('no-frames', `The ${kind} file holds no sound: it has 0 frames; choose another file.`);

/** The warning for data that stop before the size that the header states; none where all is there. */
export const cutOffWarning = (stated: number, found: number): string[] =>
  found >= stated
    ? []
    : [
        `The file is cut off: its header promises ${formatBytes(stated)} of sound, but only ${formatBytes(found)} are there; those are used.`,
      ];

/** @throws InputError if a header states no channel, too many, or no rate */
export function checkFormat(kind: string, channels: number, sampleRate: number): void {
  if (channels === 0) throw damagedHeader(kind, 'no channel');
  if (channels > MOST_CHANNELS) throw damagedHeader(kind, `${channels} channels; at most ${MOST_CHANNELS} are read`);
  if (!(sampleRate >= 1)) throw damagedHeader(kind, 'a sample rate of 0 Hz');
  if (sampleRate > LARGEST_RATE) {
    throw damagedHeader(kind, `a sample rate of ${sampleRate} Hz; at most ${LARGEST_RATE} are read`);
  }
}
