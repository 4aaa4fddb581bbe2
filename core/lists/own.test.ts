import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type ListRow, mergeList, parseCsv, textBytes } from './index.ts';

const row = (displayName: string, fileName: string, slot: number): ListRow => ({
  displayName,
  fileName,
  slot,
  stem: fileName.replace(/\..*/, ''),
  identifier: 'x',
  frames: 1,
  bytes: 1,
  soundBytes: 1,
  sampleRate: 8000,
  seconds: '0.000',
});
const merged = (own: string, rows: readonly ListRow[], isNumbered = false) => {
  const list = mergeList(new TextEncoder().encode(own), { path: 'list.txt' }, rows, isNumbered);
  return { ...list, text: new TextDecoder('utf-8', { ignoreBOM: true }).decode(list.bytes) };
};
const set = [row('Bell & co', 'bell.raw', 2), row('Winch', 'winch.raw', 5)];

// Lists of our own making, in the forms that separated text, CSV (RFC 4180) and XML 1.0 have.
describe('the rows of a list are learned, and what is there stays', () => {
  test.each<[string, string, string, string]>([
    [
      'tabs',
      'Old one\told.raw\nBell\tbell.raw\n',
      'Old one\told.raw\nBell & co\tbell.raw\nWinch\twinch.raw\n',
      '2 fields between tabs',
    ],
    [
      'the file first, a comment, lines of another system, no end of the last one',
      '# tones\r\nold.raw;Old one;0.5\r\n\r\n# more\r\nhorn.raw;Horn;0.7',
      '# tones\r\nold.raw;Old one;0.5\r\n\r\n# more\r\nhorn.raw;Horn;0.7\r\nbell.raw;Bell & co;0.7\r\nwinch.raw;Winch;0.7',
      '3 fields between semicolons',
    ],
    [
      'CSV with quotes and a header',
      'name,file\r\n"Horn, long",tones/horn.raw\r\n"Old",tones/old.raw\r\n',
      'name,file\r\n"Horn, long",tones/horn.raw\r\n"Old",tones/old.raw\r\n"Bell & co",tones/bell.raw\r\n"Winch",tones/winch.raw\r\n',
      '2 fields between commas',
    ],
    ['files alone', 'a.raw\nb.raw\n', 'a.raw\nb.raw\nbell.raw\nwinch.raw\n', 'a file in each line'],
    [
      'elements',
      '<?xml version="1.0"?>\n<tones>\n  <tone>\n    <title>Old &amp; grey</title>\n    <file>old.raw</file>\n  </tone>\n  <tone>\n    <title>B</title>\n    <file>BELL.RAW</file>\n  </tone>\n</tones>\n',
      '<?xml version="1.0"?>\n<tones>\n  <tone>\n    <title>Old &amp; grey</title>\n    <file>old.raw</file>\n  </tone>\n  <tone>\n    <title>Bell &amp; co</title>\n    <file>bell.raw</file>\n  </tone>\n  <tone>\n    <title>Winch</title>\n    <file>winch.raw</file>\n  </tone>\n</tones>\n',
      'the element tone',
    ],
    [
      'attributes, in one line each',
      '<set version="2">\r\n\t<s id="7" name="Old" src="old.raw"/>\r\n</set>',
      '<set version="2">\r\n\t<s id="7" name="Old" src="old.raw"/>\r\n\t<s id="8" name="Bell &amp; co" src="bell.raw"/>\r\n\t<s id="9" name="Winch" src="winch.raw"/>\r\n</set>',
      'the element s',
    ],
    [
      'volumes that rise by chance, and a rate',
      'name;file;volume;rate\nOld;old.raw;80;8000\nHorn;horn.raw;90;16000\n',
      'name;file;volume;rate\nOld;old.raw;80;8000\nHorn;horn.raw;90;16000\nBell & co;bell.raw;90;16000\nWinch;winch.raw;90;16000\n',
      '4 fields between semicolons',
    ],
    [
      'volumes without a heading',
      '80,old.raw\n20,horn.raw\n55,c.raw\n',
      '80,old.raw\n20,horn.raw\n55,c.raw\n55,bell.raw\n55,winch.raw\n',
      '2 fields between commas',
    ],
    [
      'lines of two systems: each keeps its own end',
      'old.raw;Old\r\nhorn.raw;Horn\nc.raw;C\r\n',
      'old.raw;Old\r\nhorn.raw;Horn\nc.raw;C\r\nbell.raw;Bell & co\r\nwinch.raw;Winch\r\n',
      '2 fields between semicolons',
    ],
    [
      'sections of characters, and comments between and in rows',
      '<l>\n<!-- <s id="1"><t>No</t><f>no.raw</f></s> -->\n<s id="7"><!-- the first --><t><![CDATA[Old & <grey>]]></t><f>old.raw</f></s>\n</l>\n',
      '<l>\n<!-- <s id="1"><t>No</t><f>no.raw</f></s> -->\n<s id="7"><!-- the first --><t><![CDATA[Old & <grey>]]></t><f>old.raw</f></s>\n' +
        '<s id="8"><t><![CDATA[Bell & co]]></t><f>bell.raw</f></s>\n<s id="9"><t><![CDATA[Winch]]></t><f>winch.raw</f></s>\n</l>\n',
      'the element s',
    ],
  ])('%s', (_, own, wanted, shape) => {
    const list = merged(own, set);
    expect(list.text).toBe(wanted);
    expect(list.shape).toBe(shape);
  });

  test('by number: what is at a place of the set is replaced, digits as they are', () => {
    const list = merged('001=old.raw\n002=horn.raw\n', set, true);
    expect(list.text).toBe('001=old.raw\n002=bell.raw\n005=winch.raw\n');
    expect(list).toMatchObject({ added: ['winch.raw'], replaced: ['bell.raw'], kept: 1 });
  });

  test.each(['utf-16le', 'latin-1', 'utf-8'] as const)('%s stays what it was', (encoding) => {
    const own = textBytes('Tür\told.raw\r\n', encoding);
    const { bytes } = mergeList(own, { path: 'l.txt' }, [row('Łódź', 'b.raw', 1)], false);
    expect([...bytes.subarray(0, own.length)]).toEqual([...own]);
    const text = new TextDecoder(encoding === 'latin-1' ? 'latin1' : encoding).decode(bytes);
    expect(text).toBe(`Tür\told.raw\r\n${encoding === 'latin-1' ? 'Lódz' : 'Łódź'}\tb.raw\r\n`);
  });

  test.each([
    '',
    'nothing here',
    '<a><b>1</b></a>',
    'x'.repeat(1_000_001),
  ])('a list without rows is refused: %#', (own) => {
    expect(() => merged(own, set)).toThrow(/The list list\.txt of the device .*; take another, or go without it\./);
  });

  test('any bytes are merged or refused, at once', () => {
    const pieces = fc.constantFrom(
      'a.raw',
      '<a>',
      '</a>',
      '<a b="c.raw"/>',
      '"',
      ',',
      '\n',
      ';',
      '\t',
      'ä',
      '\0',
      '<',
      'x '.repeat(200),
    );
    fc.assert(
      fc.property(fc.array(pieces, { maxLength: 60 }), (parts) => {
        try {
          const { added, replaced } = merged(parts.join(''), set);
          expect(added.length + replaced.length).toBe(2);
        } catch (error) {
          expect(String(error)).toMatch(/take another, or go without it\.$/);
        }
      }),
    );
  });
});

const hostile = fc
  .oneof(
    fc.string({ unit: 'grapheme', minLength: 1, maxLength: 15 }),
    fc.constantFrom('a"b', 'x,y', '<&>', "it's", ']]>', '"', '; drop'),
  )
  .map((text) => text.replace(/[\p{Cc}\u2028\u2029]+/gu, ' ').trim() || 'x')
  .filter((text) => /\p{L}/u.test(text));

test('whatever the names, a CSV reader and an XML parser find them again', () => {
  const xml: string[] = [];
  fc.assert(
    fc.property(fc.uniqueArray(hostile, { minLength: 1, maxLength: 5 }), (names) => {
      const rows = names.map((name, i) => row(name, `s${i}.raw`, i));
      const csv = merged('name,file\n"Old, one",old.raw\n', rows);
      expect(parseCsv(csv.text).slice(2)).toEqual(rows.map(({ displayName, fileName }) => [displayName, fileName]));
      xml.push(merged('<l>\n<t n="Old"><f>old.raw</f></t>\n</l>\n', rows).text);
    }),
    { numRuns: 40 },
  );
  // An independent reader: Python's.
  const script =
    "import json,sys,xml.dom.minidom as m\nfor t in json.load(sys.stdin): assert m.parseString(t).getElementsByTagName('t').length > 1";
  execFileSync('python3', ['-c', script], { input: JSON.stringify(xml) });
});
