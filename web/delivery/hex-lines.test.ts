import { expect, test } from 'vitest';
import { blocksOf, captionOf, characterOf, firstLineFor, hex, MOST_LINES, offsetAfter, offsetIn } from './hex-lines.ts';

test('bytes are written in hexadecimal and as text', () => {
  expect([hex(0, 2), hex(255, 2), hex(4096, 6)]).toEqual(['00', 'ff', '001000']);
  expect([0x1f, 0x20, 0x41, 0x7e, 0x7f, 0xff].map(characterOf).join('')).toBe('\u00b7 A~\u00b7\u00b7');
});

test.each([
  ['0', 0],
  [' 44 ', 44],
  ['0x2c', 44],
  ['0X2C', 44],
  ['99', 99],
  ['100', null],
  ['-1', null],
  ['1.5', null],
  ['1e1', null],
  ['2c', null],
  ['', null],
])('"%s" as an offset of a file of 100 bytes is %s', (text, offset) => {
  expect(offsetIn(text, 100)).toBe(offset);
});

test('of a file with too many lines those around the wanted one are in the view', () => {
  expect(firstLineFor(900, 1000)).toBe(0);
  const lines = 4 * MOST_LINES;
  expect([0, MOST_LINES, lines - 1].map((line) => firstLineFor(line, lines))).toEqual([
    0,
    MOST_LINES / 2,
    3 * MOST_LINES,
  ]);
});

test('arrows stay in the file, and begin at its first byte', () => {
  const after = (key: string, from: number | null) => offsetAfter(key, from, 16, 40);
  expect(after('ArrowRight', null)).toBe(0);
  expect([after('ArrowLeft', 0), after('ArrowRight', 39), after('ArrowUp', 5), after('ArrowDown', 30)]).toEqual([
    0, 39, 0, 39,
  ]);
  expect([after('ArrowLeft', 17), after('ArrowDown', 17), after('ArrowUp', 17)]).toEqual([16, 33, 1]);
  expect(after('Tab', 3)).toBeNull();
});

test('the blocks that are fetched are those that are seen', () => {
  expect(blocksOf(0, 0, 100)).toEqual([0]);
  expect(blocksOf(99, 100, 100)).toEqual([0, 1]);
  expect(blocksOf(250, 499, 100)).toEqual([2, 3, 4]);
});

test('the caption says the place, the field and the sample', () => {
  const field = { start: 24, end: 28, name: 'sample rate', value: '8 000 Hz', kind: 'header' } as const;
  const sound = { start: 44, end: 90, name: 'samples', value: 'pcm-s16le', kind: 'sound' } as const;
  expect(captionOf(24, undefined, null)).toBe('0x000018 (24)');
  expect(captionOf(24, field, null)).toBe('0x000018 (24): sample rate, 8 000 Hz');
  expect(captionOf(46, sound, { frame: 1, start: 46, end: 48, values: [0.5] })).toBe(
    '0x00002e (46): samples, frame 1: 0.50000 (\u22126.0 dBFS)',
  );
  expect(captionOf(46, sound, { frame: 0, start: 44, end: 90, values: [] })).toBe(
    '0x00002e (46): samples, block from frame 0',
  );
});
