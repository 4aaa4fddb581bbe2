import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { inMemory } from '../bytes/index.ts';
import { factsFor, sources } from '../chain/fixtures/sources.ts';
import { automaticSettings } from '../chain/index.ts';
import { checkFile } from '../findings/index.ts';
import { type ListFile, type Pack, readListFile, USUAL_LIST } from '../lists/index.ts';
import { demandsOf, type Target, targetOf, targets } from '../targets/index.ts';
import { makeFrom } from './fixtures/make.ts';
import { jointOf, type Listed, listRows, placeWords, plannedFiles, safeStem, setFiles, stemsOf } from './index.ts';

describe('names in a list file', () => {
  const facts = { container: 'headerless', frames: 1, bytes: 1, soundBytes: 1, sampleRate: 8000 };
  test.each([
    ['Bell\nwinch.raw\tother', 'Bell winch.raw other'],
    ['=1+1', ' =1+1'],
    ['@sum', ' @sum'],
    ['-3 dB', ' -3 dB'],
    ['Bell - soft', 'Bell - soft'],
  ])('%j makes no row or formula of its own', (displayName, wanted) => {
    const [row] = listRows([{ displayName, fileName: 'x.raw', facts, slots: [0] }]);
    expect(row.displayName).toBe(wanted);
  });

  test('keep their slot where files before them are missing', () => {
    const rows = listRows([
      { displayName: 'a', fileName: 'a.raw', facts, slots: [1] },
      { displayName: 'c', fileName: 'c.raw', facts, slots: [3] },
    ]);
    expect(rows.map(({ slot }) => slot)).toEqual([1, 3]);
  });

  test('a row for each file, or for each place that one plays at', () => {
    const files = [
      { displayName: 'a', fileName: 'a.raw', facts, slots: [1, 5] },
      { displayName: 'b', fileName: 'b.raw', facts, slots: [2] },
    ];
    const shown = (per?: 'file' | 'place') =>
      listRows(files, per).map(({ slot, displayName }) => `${slot} ${displayName}`);
    expect([shown(), shown('file'), shown('place')]).toEqual([
      ['1 a', '2 b'],
      ['1 a', '2 b'],
      ['1 a', '2 b', '5 a'],
    ]);
  });
});

describe('sizes', () => {
  // Common practice, no source: 8 000 Hz mu-law is 8 000 bytes a second; 16 000 Hz 8-bit mono is 16 000 bytes a second.
  test.each([
    ['desk-phone-ring-tone', 8000],
    ['microcontroller-8-bit-dac', 16_000],
  ])('%s: one second of sound is %i bytes', async (id, wanted) => {
    const target = targets.find((entry) => entry.id === id)!;
    const made = await makeFrom(sources.quiet, automaticSettings('x'), target);
    const { soundBytes, frames, sampleRate, bitRate } = made.facts;
    expect(bitRate).toBe(wanted * 8);
    expect((soundBytes ?? 0) / (frames / sampleRate)).toBe(wanted);
  });
});

describe('names', () => {
  const sheet = (...requirements: Target['requirements']) => ({ naming: { separator: '-' as const }, requirements });
  const plain = sheet();
  const strict = sheet({ key: 'name', kind: 'name', mostWithExtension: 10, notDigitsOnly: true });

  test.each(
    targets.map((target) => [target.id, target] as const),
  )('%s: names that are made meet the sheet', (_, target) => {
    const extension = demandsOf(target).extensions?.value[0] ?? 'wav';
    const facts = factsFor(sources.quiet);
    const any = fc.oneof(fc.string({ unit: 'grapheme', maxLength: 30 }), fc.stringMatching(/^\d{1,12}$/));
    fc.assert(
      fc.property(fc.array(any, { minLength: 1, maxLength: 15 }), (names) => {
        const clips = names.map((name, i) => ({ id: String(i), name }));
        const files = plannedFiles(clips, {}, target).map(({ stem }) => `${stem}.${extension}`);
        expect(new Set(files).size).toBe(files.length);
        for (const file of files) {
          const about = checkFile(target, facts, file).filter(({ requirement }) =>
            ['name', 'extension'].includes(requirement),
          );
          expect(about.filter(({ verdict }) => verdict !== 'meets')).toEqual([]);
        }
      }),
      { numRuns: 40 },
    );
  });

  test('as short as the sheet wants, still all different, never digits alone', () => {
    expect(
      stemsOf(['Upper station', 'Upper stand', '1234', '12345678'], {
        ...strict,
        requirements: [...strict.requirements],
      }),
    ).toEqual(['upper', 'uppe-2', 'clip-1', 'clip-2']);
  });

  test.each([
    ['Doors closing', 'doors-closing'],
    ['Bahnhofstraße, Übergang', 'bahnhofstrasse-ubergang'],
    // Passport spellings (ICAO Doc 9303; from memory) but for umlauts; hanyu pinyin.
    ['Łódź, Øresund', 'lodz-oresund'],
    ['Жук', 'zhuk'],
    ['東京', 'dongjing'],
    ['../../etc/passwd', 'etc-passwd'],
    ['CON', 'con-clip'],
    ['???', 'clip'],
    ['a'.repeat(200), 'a'.repeat(60)],
  ])('%s becomes %s', (text, stem) => expect(safeStem(text, '-')).toBe(stem));

  test('any text gives a safe name', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) => {
        expect(safeStem(text, '_')).toMatch(/^[a-z0-9][a-z0-9_]{0,64}$/);
      }),
    );
  });

  test('names of a set are all different, and the first keeps its own', () => {
    // The list of this sheet is bells.h: the header of a clip of that name would take its place.
    const headers = {
      ...targetOf('microcontroller-8-bit-dac'),
      requirements: [{ key: 'c', kind: 'container', anyOf: ['c-header'] }],
    };
    const lists = [{ ...targetOf('microcontroller-5-bit-ladder').lists[0], path: 'bells.h' }] as Target['lists'];
    expect(stemsOf(['Bells', 'Horn'], { ...headers, lists } as Target)).toEqual(['bells_2', 'horn']);
    expect(stemsOf(['Bell', 'bell!', 'BELL', 'bell 2'], plain)).toEqual(['bell', 'bell-2', 'bell-3', 'bell-2-2']);
    fc.assert(
      fc.property(fc.array(fc.constantFrom('a', 'a 2', 'a-2', 'b', '')), (names) => {
        expect(new Set(stemsOf(names, plain)).size).toBe(names.length);
      }),
    );
  });
});

test.each([
  [{ key: 'name', kind: 'name' as const, digits: 4 }, ['0005', '0006', '0007']],
  [{ key: 'name', kind: 'name' as const, letterCase: 'upper' as const }, ['BELL', 'BELL-2', 'SYSTEM']],
  [{ key: 'name', kind: 'name' as const, reserved: ['system', 'Bell'] }, ['bell-2', 'bell-3', 'system-2']],
])('names under %j: %j', (rule, wanted) => {
  const naming = {
    naming: { separator: '-' as const },
    places: { words: ['number'], first: 5, labels: {} },
    requirements: [rule],
  };
  const clips = ['Bell', 'bell', 'System'].map((name) => ({ id: name, name }));
  expect(plannedFiles(clips, {}, naming).map(({ stem }) => stem)).toEqual(wanted);
});

test.each([
  [{ words: ['button', 'key'], first: 1, labels: { '4': 'horn' } }, ['button 1', 'button 4, horn']],
  [{ words: ['number'], first: 0, labels: {} }, ['number 1', 'number 4']],
  [undefined, [null, null]],
])('places %j are called %j', (places, wanted) => {
  expect([placeWords({ places }, 1), placeWords({ places }, 4)]).toEqual(wanted);
});

const text = (bytes: Uint8Array | undefined, encoding = 'utf-8') => new TextDecoder(encoding).decode(bytes);

describe('list files', () => {
  const facts = { container: 'headerless', frames: 14_400, bytes: 14_500, soundBytes: 14_400, sampleRate: 8000 };
  const files: readonly Listed[] = [
    { displayName: 'Platform bell', fileName: 'platform-bell.raw', facts, slots: [3] },
    {
      displayName: 'Winch {bytes}',
      fileName: '2nd-winch.raw',
      facts: { ...facts, frames: 240, soundBytes: null },
      slots: [4],
    },
  ];
  const made = async (list: Partial<ListFile>, of = files) => {
    const lists = [{ ...USUAL_LIST, key: 'list', path: 'sounds/list.txt', ...list }];
    const [file] = await setFiles({ lists, packs: [] }, of, async () => '');
    return file;
  };

  test('header, a row for each file, footer', async () => {
    const row = '{slot} {displayName}={fileName};{frames};{bytes};{soundBytes};{seconds};{other};{identifier}';
    const file = await made({ header: '# tones', row, footer: '# end' });
    expect(file).toMatchObject({ role: 'list', path: 'sounds/list.txt' });
    expect(text(file?.bytes)).toBe(
      [
        '# tones',
        '3 Platform bell=platform-bell.raw;14400;14500;14400;1.800;{other};platform_bell',
        '4 Winch {bytes}=2nd-winch.raw;240;14500;14500;0.030;{other};clip_2nd_winch',
        '# end',
        '',
      ].join('\n'),
    );
  });

  // XML 1.0, section 2.4; RFC 4180; RFC 2781 for the mark.
  const odd = [{ displayName: 'Łódź "A", <1> & ä', fileName: 'a.raw', facts, slots: [0] }];
  test.each<[Partial<ListFile>, string, readonly number[], string]>([
    [{ escape: 'xml' }, 'utf-8', [0xc5], 'Łódź &quot;A&quot;, &lt;1&gt; &amp; ä\ta.raw\n'],
    [{ escape: 'csv', row: '{displayName},{fileName}' }, 'utf-8', [0x22], '"Łódź ""A"", <1> & ä",a.raw\n'],
    [{ lineEnd: '\r\n' }, 'utf-8', [0xc5], 'Łódź "A", <1> & ä\ta.raw\r\n'],
    [{ text: 'utf-16le' }, 'utf-16le', [0xff, 0xfe, 0x41, 0x01], 'Łódź "A", <1> & ä\ta.raw\n'],
    [{ text: 'latin-1' }, 'latin1', [0x4c, 0xf3], 'Lódz "A", <1> & ä\ta.raw\n'],
  ])('%j', async (list, encoding, start, wanted) => {
    const file = await made(list, odd);
    expect([...(file?.bytes.subarray(0, start.length) ?? [])]).toEqual(start);
    expect(text(file?.bytes, encoding)).toBe(wanted);
    const read = readListFile(inMemory(file?.bytes ?? new Uint8Array(0)), {
      ...USUAL_LIST,
      key: 'l',
      path: 'l.txt',
      ...list,
    });
    const isLatin = list.text === 'latin-1';
    expect(read).toEqual({
      rows: [{ displayName: isLatin ? 'Lódz "A", <1> & ä' : odd[0].displayName, fileName: 'a.raw' }],
      strange: [],
      isTooLarge: false,
    });
  });

  test('are read by rows, and what is none is named with its line', async () => {
    const list = {
      ...USUAL_LIST,
      key: 'l',
      path: 'l.txt',
      header: 'slot\tfile',
      row: '{slot}\t{fileName}',
      footer: 'end',
    };
    const bytes = new TextEncoder().encode('slot\tfile\r\n1\tbell.raw\r\n\r\nnonsense\r\n2\twinch.raw\r\nend');
    expect(readListFile(inMemory(bytes), list)).toEqual({
      rows: [
        { slot: '1', fileName: 'bell.raw' },
        { slot: '2', fileName: 'winch.raw' },
      ],
      strange: [{ line: 4, text: 'nonsense' }],
      isTooLarge: false,
    });
  });
});

describe('all sounds in one file', () => {
  const facts = { container: 'c-header', frames: 3, bytes: 90, soundBytes: 3, sampleRate: 8000 };
  const pack = {
    key: 'pack',
    path: 'sounds.h',
    form: 'source' as const,
    header: '/* All sounds. */',
    index: 'static const uint8_t *const sounds[] = {',
    row: '  {identifier}, /* {slot} */',
    footer: '};',
  };
  const files = ['bell', 'winch'].map((stem, i) => ({ displayName: stem, fileName: `${stem}.h`, facts, slots: [i] }));
  const packed = (change: Partial<Pack>, container: string, texts: readonly string[]) => {
    const of = files.map((file) => ({ ...file, facts: { ...facts, container } }));
    return setFiles({ lists: [], packs: [{ ...pack, ...change }] }, of, async (file) => texts[of.indexOf(file)]);
  };

  test('only what is source code of one kind can stand together', () => {
    const of = (...containers: string[]) =>
      jointOf(
        { packs: [pack] },
        containers.map((container) => ({ facts: { container } })),
      );
    expect(of('c-header', 'c-header')).toBe('\n\n');
    expect(of('json', 'json')).toBe(',\n');
    expect([of('c-header', 'wav'), of('json', 'c-header'), of('intel-hex'), of()]).toEqual([null, null, null, null]);
    expect(jointOf({ packs: [] }, files)).toBeNull();
  });

  test('with an index, and where each of them stands', async () => {
    const [file] = await packed({}, 'c-header', ['Aé\n', 'B\n']);
    expect(text(file.bytes)).toBe(
      '/* All sounds. */\nAé\n\nB\nstatic const uint8_t *const sounds[] = {\n  bell, /* 0 */\n  winch, /* 1 */\n};\n',
    );
    const places = file.role === 'pack' ? file.places : [];
    expect(places.map(({ offset, length }) => text(file.bytes.subarray(offset, offset + length)))).toEqual(['Aé', 'B']);
  });

  test('as JSON, and as an index alone', async () => {
    const around = { header: '[', index: '', row: '', footer: ']' };
    const [json] = await packed(around, 'json', ['{"a":1}\n', '{"b":2}\n']);
    expect(JSON.parse(text(json.bytes))).toEqual([{ a: 1 }, { b: 2 }]);
    const [index] = await packed({}, 'intel-hex', []);
    expect(index).toMatchObject({ role: 'list', path: 'sounds.h' });
    expect(text(index.bytes)).not.toContain('\n\n');
  });
});
