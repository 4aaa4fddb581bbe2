import type { OpenOptions } from '@tambur/codecs';
import { blockEncodings, encodings, findEncoding, InputError, type Reading, shortened } from '@tambur/core';
import type { Command } from 'commander';
import { wholeFrom } from './numbers.ts';

/** What the user says of files that do not say it themselves. */
export interface Source {
  /** `mu-law,8000,1`: what the bytes are, whatever they look like. */
  readonly as?: string;
  /** Which of several sounds, from 1. */
  readonly track?: number;
}

/** `encoding,rate,channels` and, where wanted, `,skip` and `,bits`. */
export function readReading(text: string): Reading {
  const [encoding = '', ...figures] = text.split(',').map((part) => part.trim());
  const [sampleRate, channels = 1, skip = 0, bits] = figures.map(Number);
  const isWhole = (value: number, least: number) => Number.isInteger(value) && value >= least;
  if (
    !findEncoding(encoding) ||
    sampleRate === undefined ||
    !(sampleRate > 0) ||
    !isWhole(channels, 1) ||
    !isWhole(skip, 0) ||
    (bits !== undefined && !isWhole(bits, 1))
  ) {
    const known = [...encodings, ...blockEncodings].map(({ id }) => id).join(', ');
    throw new InputError(
      'bad-setting',
      `--as ${shortened(text, 80)} is not a reading; write encoding,rate,channels[,skip[,bits]], the encoding being one of: ${known}, or PCM of 1 to 32 bits in any layout, for example pcm-s12le-left or pcm-u5-packed.`,
    );
  }
  return { encoding, sampleRate, channels, skip, bits };
}

export const openOptions = ({ as, track }: Source): OpenOptions => ({
  readAs: as === undefined ? undefined : readReading(as),
  track: track === undefined ? undefined : track - 1,
});

/** A command that reads files lets the user say what they are. */
export const withSource = (command: Command): Command =>
  command
    .option('--as <reading>', 'read the bytes as encoding,rate,channels[,skip[,bits]], for example mu-law,8000,1')
    .option('--track <n>', 'which of several sounds in a file', wholeFrom(1));
