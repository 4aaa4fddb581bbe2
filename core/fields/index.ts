import type { ByteFile } from '../bytes/index.ts';
import { codecOf, findEncoding, layoutOf } from '../encodings/index.ts';
import type { Facts } from '../facts/index.ts';
import { type ByteField, FieldList } from './field-list.ts';
import { fieldReaders } from './list.ts';

export type { ByteField } from './field-list.ts';

/**
 * What the stretches of a file's bytes say, in their order, as far as that is known of its kind.
 * @param isBare true if all bytes are sound
 */
export function byteFieldsOf(file: ByteFile, isBare: boolean): readonly ByteField[] {
  const fields = new FieldList(file);
  const reader = isBare
    ? undefined
    : fieldReaders.find((entry) => entry.recognises(file.read(0, Math.min(12, file.size))));
  if (reader) reader.read(fields);
  else if (isBare) fields.note('samples', file.size, '', 'sound');
  return fields.found;
}

/** A sample, or a block of them, at a place of a file. */
export interface SampleAt {
  /** Of the frame, or of the first one of the block. */
  readonly frame: number;
  /** Of the bytes that make it up, behind its last. */
  readonly start: number;
  readonly end: number;
  /** Of each channel, -1..1; none in a block. */
  readonly values: readonly number[];
}

/**
 * The frame whose bytes are at a place of a stretch of plain samples; null if it is cut short, or only a library knows.
 * @param offset within the file
 */
export function sampleAt(
  file: ByteFile,
  { encoding: id, channels, sampleRate }: Pick<Facts, 'encoding' | 'channels' | 'sampleRate'>,
  { start }: ByteField,
  offset: number,
): SampleAt | null {
  const encoding = findEncoding(id);
  if (!encoding) return null;
  const codec = codecOf(encoding, layoutOf(encoding, channels, sampleRate));
  const unit = Math.floor((offset - start) / codec.unitBytes);
  const from = start + unit * codec.unitBytes;
  const bytes = file.read(from, from + codec.unitBytes);
  if (unit < 0 || bytes.length < codec.unitBytes) return null;
  const values = codec.unitFrames === 1 ? codec.decodeChannels(bytes).map((channel) => channel[0]) : [];
  return { frame: unit * codec.unitFrames, start: from, end: from + codec.unitBytes, values };
}
