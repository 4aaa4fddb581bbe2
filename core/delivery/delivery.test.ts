import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { pcmReader } from '../audio/index.ts';
import { factsFor, sources } from '../chain/fixtures/sources.ts';
import { automaticSettings, type ClipSettings } from '../chain/index.ts';
import { checkFile } from '../findings/index.ts';
import { demandsOf, type Target, targets } from '../targets/index.ts';
import { listFileText, makeClip, safeStem, stemsOf } from './index.ts';

describe('every sheet x every source', () => {
  const cases = targets.flatMap((target) =>
    Object.entries(sources).map(([name, pcm]) => ({ target, name, pcm, id: target.id })),
  );

  test.each(
    cases,
  )('$id from a source that is $name: meets the sheet, or an obstacle with a way out that works', async ({
    target,
    pcm,
  }) => {
    const facts = factsFor(pcm);
    const make = (settings: ClipSettings) =>
      makeClip({ facts, reader: pcmReader(pcm) }, settings, target, { stem: 'x' });
    const settings = automaticSettings('x');
    let made = await make(settings);
    const [obstacle] = made.chain.obstacles;
    if (obstacle) {
      expect(made.findings.some(({ verdict }) => verdict === 'breaks')).toBe(true);
      made = await make({ ...settings, [obstacle.ways[0].station]: obstacle.ways[0].wish });
    }
    expect(made.findings.filter(({ verdict }) => verdict === 'breaks' || verdict === 'unknown')).toEqual([]);
    expect(made.facts.bytes).toBe(made.file.size);
  });

  // Common practice, no source: 8 000 Hz mu-law is 8 000 bytes a second; 16 000 Hz 8-bit mono is 16 000 bytes a second.
  test.each([
    ['desk-phone-ring-tone', 8000],
    ['microcontroller-8-bit-dac', 16_000],
  ])('%s: one second of sound is %i bytes', async (id, wanted) => {
    const target = targets.find((entry) => entry.id === id)!;
    const facts = factsFor(sources.quiet);
    const made = await makeClip({ facts, reader: pcmReader(sources.quiet) }, automaticSettings('x'), target, {
      stem: 'x',
    });
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

test('a list file: header, a row for each file, footer', () => {
  const rows = [
    { displayName: 'Platform bell', fileName: 'platform-bell.raw', frames: 14_400, bytes: 14_400 },
    { displayName: 'Winch {bytes}', fileName: 'winch.raw', frames: 240, bytes: 240 },
  ];
  const text = listFileText(
    { name: 'list.txt', header: '# tones', row: '{displayName}={fileName};{frames};{bytes};{other}', footer: '# end' },
    rows,
  );
  expect(text).toBe(
    '# tones\nPlatform bell=platform-bell.raw;14400;14400;{other}\nWinch {bytes}=winch.raw;240;240;{other}\n# end\n',
  );
});
