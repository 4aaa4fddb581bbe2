import { toDb } from '../numbers/index.ts';

/** Figures as Tambur writes them everywhere: on the screen, in findings and on the command line. */

const NARROW_SPACE = '\u202f';
const MINUS = '\u2212';

/** Whole number with its thousands set apart by a narrow no-break space: 44 100. Four-digit numbers too: 8 000. */
export const formatCount = (value: number): string =>
  Math.round(value)
    .toString()
    .replace('-', MINUS)
    .replace(/\B(?=(\d{3})+$)/g, NARROW_SPACE);

/** A rate in Hz: "44 100 Hz". */
export const formatRate = (hz: number): string =>
  Number.isInteger(hz) ? `${formatCount(hz)} Hz` : `${formatCount(Math.floor(hz))}${(hz % 1).toFixed(2).slice(1)} Hz`;

const two = (value: number): string => String(value).padStart(2, '0');

/** Seconds with three decimals, "4.218 s"; from a minute on as a clock shows them: "1:02.345", "1:00:00.000". */
export function formatSeconds(seconds: number): string {
  const ms = Math.round(Math.abs(seconds) * 1000);
  const sign = seconds < 0 && ms > 0 ? MINUS : '';
  if (ms < 60_000) return `${sign}${(ms / 1000).toFixed(3)} s`;
  const minutes = Math.floor(ms / 60_000);
  const rest = ((ms % 60_000) / 1000).toFixed(3).padStart(6, '0');
  const hours = Math.floor(minutes / 60);
  return `${sign}${hours > 0 ? `${hours}:${two(minutes % 60)}` : minutes}:${rest}`;
}

/** A length in seconds and in frames: "6.250 s, 50 000 frames". */
export const formatLength = (frames: number, sampleRate: number): string =>
  `${formatSeconds(frames / sampleRate)}, ${formatCount(frames)} ${frames === 1 ? 'frame' : 'frames'}`;

/** A size in bytes, in kB (1 000 bytes) or MB from there on: "980 bytes", "56.0 kB", "1.27 MB". */
export function formatBytes(bytes: number): string {
  if (bytes < 1000) return `${bytes} ${bytes === 1 ? 'byte' : 'bytes'}`;
  if (bytes < 1e6) return `${(bytes / 1000).toFixed(1)} kB`;
  return bytes < 1e9 ? `${(bytes / 1e6).toFixed(2)} MB` : `${(bytes / 1e9).toFixed(2)} GB`;
}

/** A figure in dB with one decimal and a real minus sign; silence is an infinite minus. */
export function formatDb(db: number, unit: 'dB' | 'dBFS' | 'dBTP' | 'LUFS' | 'LU', signed = false): string {
  if (db === Number.NEGATIVE_INFINITY) return `${MINUS}\u221e ${unit}`;
  const rounded = db.toFixed(1).replace(/^-0\.0$/, '0.0');
  const sign = signed && Number(rounded) > 0 ? '+' : '';
  return `${sign}${rounded.replace('-', MINUS)} ${unit}`;
}

/** A linear level as dBFS: "-1.0 dBFS" with a real minus sign. */
export const formatLevel = (linear: number): string => formatDb(toDb(linear), 'dBFS');

/** A data rate: "1 411.2 kbit/s". */
export function formatBitRate(bitsPerSecond: number): string {
  const [whole, tenth] = (bitsPerSecond / 1000).toFixed(1).split('.');
  return `${formatCount(Number(whole))}${tenth === '0' ? '' : `.${tenth}`} kbit/s`;
}

/** "mono", "stereo", "6 channels". */
export const formatChannels = (count: number): string =>
  count === 1 ? 'mono' : count === 2 ? 'stereo' : `${count} channels`;

/** Joins alternatives: "a", "a or b", "a, b or c". */
export const formatChoice = (items: readonly string[]): string =>
  items.length < 2 ? (items[0] ?? '') : `${items.slice(0, -1).join(', ')} or ${items[items.length - 1]}`;

/** A part of a whole, 0..1: "22.2 %". */
export const formatPercent = (part: number): string => `${(100 * part).toFixed(1)} %`;
