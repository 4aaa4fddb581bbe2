import { describe, expect, test } from 'vitest';
import {
  formatBitRate,
  formatBytes,
  formatChoice,
  formatCount,
  formatDb,
  formatLength,
  formatRate,
  formatSeconds,
} from './figures.ts';

// Spelling of figures as laid down in docs/words.md: thin spaces, real minus signs, 1 kB = 1 000 bytes.
describe('figures', () => {
  test.each([
    [formatCount(999), '999'],
    [formatCount(8000), '8\u202f000'],
    [formatCount(-1234567), '\u22121\u202f234\u202f567'],
    [formatRate(44100), '44\u202f100 Hz'],
    [formatRate(15686.27), '15\u202f686.27 Hz'],
    [formatLength(50_000, 8000), '6.250 s, 50\u202f000 frames'],
    [formatLength(1, 8000), '0.000 s, 1 frame'],
    [formatSeconds(59.9994), '59.999 s'],
    [formatSeconds(59.9996), '1:00.000'],
    [formatSeconds(-0.0004), '0.000 s'],
    [formatSeconds(-75.5), '\u22121:15.500'],
    [formatSeconds(3600), '1:00:00.000'],
    [formatLength(44_100 * 3723, 44_100), '1:02:03.000, 164\u202f184\u202f300 frames'],
    [formatBytes(1), '1 byte'],
    [formatBytes(980), '980 bytes'],
    [formatBytes(56_000), '56.0 kB'],
    [formatBytes(1_270_000_000), '1.27 GB'],
    [formatDb(-1, 'dBFS'), '\u22121.0 dBFS'],
    [formatDb(8.64, 'dB', true), '+8.6 dB'],
    [formatDb(-0.04, 'dB', true), '0.0 dB'],
    [formatDb(Number.NEGATIVE_INFINITY, 'dBFS'), '\u2212\u221e dBFS'],
    [formatBitRate(1_411_200), '1\u202f411.2 kbit/s'],
    [formatBitRate(2_304_000), '2\u202f304 kbit/s'],
    [formatChoice(['a']), 'a'],
    [formatChoice(['a', 'b', 'c']), 'a, b or c'],
  ])('%s', (text, wanted) => expect(text).toBe(wanted));
});
