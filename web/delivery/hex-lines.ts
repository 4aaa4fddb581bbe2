import { type ByteField, clamp, formatCount, formatLevel, type SampleAt } from '@tambur/core';

/** A scrolled view is no higher than browsers can show: so many lines at a time. */
export const MOST_LINES = 250_000;

export const hex = (value: number, digits: number): string => value.toString(16).padStart(digits, '0');

/** A byte as a character; a middle dot for what has none. */
export const characterOf = (byte: number): string =>
  byte >= 0x20 && byte < 0x7f ? String.fromCharCode(byte) : '\u00b7';

/** An offset as it is typed, decimal or with 0x; null if it is not one of the file. */
export function offsetIn(text: string, size: number): number | null {
  const digits = text.trim();
  if (!/^(0x[0-9a-f]+|\d+)$/i.test(digits)) return null;
  const offset = Number(digits);
  return offset < size ? offset : null;
}

/** The first of the lines that are in the view, so that `line` is among them, with as many before it as after it. */
export const firstLineFor = (line: number, lines: number): number =>
  lines > MOST_LINES ? clamp(line - MOST_LINES / 2, 0, lines - MOST_LINES) : 0;

/** Where an arrow key leads: from byte to byte, and from line to line; null for other keys. */
export function offsetAfter(key: string, from: number | null, perLine: number, size: number): number | null {
  const steps: Readonly<Record<string, number>> = {
    ArrowLeft: -1,
    ArrowRight: 1,
    ArrowUp: -perLine,
    ArrowDown: perLine,
  };
  const step = steps[key];
  if (step === undefined) return null;
  return from === null ? 0 : clamp(from + step, 0, size - 1);
}

/** The numbers of the blocks that hold bytes `first` to `last`. */
export function blocksOf(first: number, last: number, blockBytes: number): number[] {
  const from = Math.floor(first / blockBytes);
  return Array.from({ length: Math.floor(last / blockBytes) - from + 1 }, (_, i) => from + i);
}

/** What stands at an offset, in words. */
export function captionOf(offset: number, field: ByteField | undefined, sample: SampleAt | null): string {
  const place = `0x${hex(offset, 6)} (${formatCount(offset)})`;
  const value = field?.value && field.kind !== 'sound' ? `, ${field.value}` : '';
  const values = sample?.values.map((level) => `${level.toFixed(5)} (${formatLevel(Math.abs(level))})`).join(', ');
  const frame = sample && formatCount(sample.frame);
  const heard = sample ? (values ? `, frame ${frame}: ${values}` : `, block from frame ${frame}`) : '';
  return `${place}${field ? `: ${field.name}${value}` : ''}${heard}`;
}
