import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { factsFor, sources } from '../chain/fixtures/sources.ts';
import { automaticSettings } from '../chain/index.ts';
import { checkFile } from '../findings/index.ts';
import { demandsOf, type Target, targets } from '../targets/index.ts';
import { makeFrom } from './fixtures/make.ts';
import { jointOf, listFileText, listRows, safeStem, stemsOf } from './index.ts';

describe('names in a list file', () => {
  const facts = { frames: 1, bytes: 1, soundBytes: 1, sampleRate: 8000 };
  test.each([
    ['Bell\nwinch.raw\tother', 'Bell winch.raw other'],
    ['=1+1', ' =1+1'],
    ['@sum', ' @sum'],
    ['-3 dB', ' -3 dB'],
    ['Bell - soft', 'Bell - soft'],
  ])('%j makes no row or formula of its own', (displayName, wanted) => {
    const [row] = listRows({}, [{ displayName, fileName: 'x.raw', facts }]);
    expect(row.displayName).toBe(wanted);
  });

  test('keep their slot where files before them are missing', () => {
    const rows = listRows({ slots: { word: 'button', first: 1 } }, [
      { displayName: 'a', fileName: 'a.raw', facts, index: 0 },
      { displayName: 'c', fileName: 'c.raw', facts, index: 2 },
    ]);
    expect(rows.map(({ slot }) => slot)).toEqual([1, 3]);
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
  const strict = sheet({ kind: 'name', mostWithExtension: 10, notDigitsOnly: true });

  test.each(
    targets.map((target) => [target.id, target] as const),
  )('%s: names that are made meet the sheet', (_, target) => {
    const extension = demandsOf(target).extensions?.value[0] ?? 'wav';
    const facts = factsFor(sources.quiet);
    const any = fc.oneof(fc.string({ unit: 'grapheme', maxLength: 30 }), fc.stringMatching(/^\d{1,12}$/));
    fc.assert(
      fc.property(fc.array(any, { minLength: 1, maxLength: 15 }), (names) => {
        const files = stemsOf(names, target).map((stem) => `${stem}.${extension}`);
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
    expect(stemsOf(['Bell', 'bell!', 'BELL', 'bell 2'], plain)).toEqual(['bell', 'bell-2', 'bell-3', 'bell-2-2']);
    fc.assert(
      fc.property(fc.array(fc.constantFrom('a', 'a 2', 'a-2', 'b', '')), (names) => {
        expect(new Set(stemsOf(names, plain)).size).toBe(names.length);
      }),
    );
  });
});

test.each([
  [{ kind: 'name' as const, digits: 4 }, ['0005', '0006', '0007']],
  [{ kind: 'name' as const, letterCase: 'upper' as const }, ['BELL', 'BELL-2', 'SYSTEM']],
  [{ kind: 'name' as const, reserved: ['system', 'Bell'] }, ['bell-2', 'bell-3', 'system-2']],
])('names under %j: %j', (rule, wanted) => {
  const naming = { naming: { separator: '-' as const }, slots: { word: 'number', first: 5 }, requirements: [rule] };
  expect(stemsOf(['Bell', 'bell', 'System'], naming)).toEqual(wanted);
});

test('a list file: header, a row for each file, footer', () => {
  const facts = { frames: 14_400, bytes: 14_500, soundBytes: 14_400, sampleRate: 8000 };
  const rows = listRows({ slots: { word: 'button', first: 3 } }, [
    { displayName: 'Platform bell', fileName: 'platform-bell.raw', facts },
    { displayName: 'Winch {bytes}', fileName: '2nd-winch.raw', facts: { ...facts, frames: 240, soundBytes: null } },
  ]);
  const row = '{slot} {displayName}={fileName};{frames};{bytes};{soundBytes};{seconds};{other};{identifier}';
  expect(listFileText({ name: 'list.txt', header: '# tones', row, footer: '# end' }, rows)).toBe(
    [
      '# tones',
      '3 Platform bell=platform-bell.raw;14400;14500;14400;1.800;{other};platform_bell',
      '4 Winch {bytes}=2nd-winch.raw;240;14500;14500;0.030;{other};clip_2nd_winch',
      '# end',
      '',
    ].join('\n'),
  );
});

test('all sounds in one file, with an index', () => {
  const facts = { container: 'c-header', frames: 3, bytes: 90, soundBytes: 3, sampleRate: 8000 };
  const listFile = {
    name: 'sounds.h',
    header: '/* All sounds. */',
    holdsSounds: true,
    index: 'static const uint8_t *const sounds[] = {',
    row: '  {identifier}, /* {slot} */',
    footer: '};',
  };
  const files = ['bell', 'winch'].map((stem) => ({ displayName: stem, fileName: `${stem}.h`, facts }));
  const of = (...containers: string[]) =>
    jointOf(
      { listFile },
      containers.map((container) => ({ facts: { container } })),
    );
  expect(of('c-header', 'c-header')).toBe('\n\n');
  expect(of('json', 'json')).toBe(',\n');
  // What is no source code, or not of one kind, stands in files of its own.
  expect([of('c-header', 'wav'), of('json', 'c-header'), of('intel-hex'), of()]).toEqual([null, null, null, null]);
  expect(jointOf({}, files)).toBeNull();
  expect(listFileText(listFile, listRows({}, files), { contents: ['A\n', 'B\n'], joint: '\n\n' })).toBe(
    '/* All sounds. */\nA\n\nB\nstatic const uint8_t *const sounds[] = {\n  bell, /* 0 */\n  winch, /* 1 */\n};\n',
  );
  expect(
    JSON.parse(
      listFileText({ ...listFile, header: '[', index: '', row: '', footer: ']' }, [], {
        contents: ['{"a":1}\n', '{"b":2}\n'],
        joint: ',\n',
      }),
    ),
  ).toEqual([{ a: 1 }, { b: 2 }]);
});
