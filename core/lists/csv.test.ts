import fc from 'fast-check';
import { expect, test } from 'vitest';
import { csvText, parseCsv, safeCell } from './index.ts';

// RFC 4180, section 2: lines end with CR LF, the last one may not; quotes around what has separators, quotes or ends of lines.
test.each([
  [
    'a,b\r\nc,d',
    [
      ['a', 'b'],
      ['c', 'd'],
    ],
  ],
  [
    '"a,1","b ""x"""\r\n"c\r\nd",e\r\n',
    [
      ['a,1', 'b "x"'],
      ['c\r\nd', 'e'],
    ],
  ],
  [
    '\ufeffa;b\nc;"d;e"\n\n',
    [
      ['a', 'b'],
      ['c', 'd;e'],
    ],
  ],
  [
    '1\tBell, loud\r2\tWinch',
    [
      ['1', 'Bell, loud'],
      ['2', 'Winch'],
    ],
  ],
  ['a,,c\n,,\n', [['a', '', 'c']]],
  ['a,b,', [['a', 'b', '']]],
  ['', []],
])('%j', (text, rows) => expect(parseCsv(text)).toEqual(rows));

test('a quote that nobody closes ends the table', () => {
  expect(parseCsv(`1,bell\n"${'x'.repeat(3_000_000)}`)[0]).toEqual(['1', 'bell']);
  expect(parseCsv(`1,"${'""'.repeat(1_000_000)}"`)).toEqual([['1', '"'.repeat(1_000_000)]]);
});

test('what is written is read again, and begins no formula', () => {
  const cell = fc.string({ unit: 'grapheme', maxLength: 12 }).filter((text) => text.trim() !== '');
  const rows = fc.array(fc.tuple(fc.constant('n'), cell, cell), { minLength: 1, maxLength: 6 });
  fc.assert(
    fc.property(rows, (given) => {
      // The first line says what separates: a header without any other separator, as all of ours.
      const all = [['number', 'sound', 'file'], ...given];
      const read = parseCsv(csvText(all));
      expect(read).toEqual(all.map((cells) => cells.map(safeCell)));
      for (const value of read.flat()) expect(value).not.toMatch(/^[=+\-@\t\r]/);
    }),
  );
});
