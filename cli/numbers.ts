import { InvalidArgumentError } from 'commander';

/** Seconds of a cut. */
export function seconds(text: string): number {
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value) || value < 0) {
    throw new InvalidArgumentError('give seconds, for example 1.25.');
  }
  return value;
}

/** Number of a sound in a file, or of bytes. */
export const wholeFrom = (least: number) => (text: string) => {
  const value = Number(text);
  if (text.trim() === '' || !Number.isInteger(value) || value < least) {
    throw new InvalidArgumentError(`give a whole number of ${least} or more.`);
  }
  return value;
};
