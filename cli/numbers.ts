import { framesAt } from '@tambur/core';
import { InvalidArgumentError } from 'commander';

/** A place in a sound. */
export type Moment = { readonly frames: number } | { readonly seconds: number };

/** Its frame. */
export const frameOf = (moment: Moment, sampleRate: number): number =>
  'frames' in moment ? moment.frames : framesAt(moment.seconds, sampleRate);

/** Seconds (`83.5`), minutes and hours before them (`1:23.5`, `1:00:00`), or frames (`44100f`). */
export function moment(text: string): Moment {
  const frames = /^(\d{1,15})f$/.exec(text);
  if (frames) return { frames: Number(frames[1]) };
  const [, hours = 0, minutes = 0, seconds] = /^(?:(?:(\d+):)?(\d+):)?(\d+(?:\.\d*)?|\.\d+)$/.exec(text) ?? [];
  const isClock = text.includes(':');
  if (seconds === undefined || (isClock && Number(seconds) >= 60) || (hours && Number(minutes) >= 60)) {
    throw new InvalidArgumentError('give seconds, a time, or frames, for example 83.5, 1:23.5 or 44100f.');
  }
  return { seconds: Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds) };
}

/** Number of a sound in a file, or of bytes. */
export const wholeFrom = (least: number) => (text: string) => {
  const value = Number(text);
  if (text.trim() === '' || !Number.isInteger(value) || value < least) {
    throw new InvalidArgumentError(`give a whole number of ${least} or more.`);
  }
  return value;
};

/** A number from the least to the most. */
export const numberWithin = (least: number, most: number) => (text: string) => {
  const value = Number(text);
  if (text.trim() === '' || !(value >= least && value <= most)) {
    throw new InvalidArgumentError(`give a number from ${least} to ${most}.`);
  }
  return value;
};
