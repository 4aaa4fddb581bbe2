import { describe, expect, test } from 'vitest';
import { factsFor, sources } from '../chain/fixtures/sources.ts';
import { type DeliveryRecord, EMPTY_JOB, newClip } from '../documents/index.ts';
import { parseCsv } from '../lists/index.ts';
import { type Target, targetOf } from '../targets/index.ts';
import { bearsReadMe, noteFiles, readSlotTable, slotLinesOf, slotTableCsv } from './index.ts';

const facts = factsFor(sources.quiet);
const source = { sha256: 'e'.repeat(64), reading: null, track: 0, facts };

/** A delivery of two clips, the first of them at two places. */
function recordFor(sheet: Target, paths: readonly string[], places: Record<string, string>): DeliveryRecord {
  const clips = [newClip('a', 'Upper, "station"', 's'), newClip('b', '=Winch', 's')];
  const ofClip = (i: number) => clips[i % 2]?.id ?? '';
  return {
    format: 2,
    id: 'd1',
    core: '0.1.0',
    job: {
      ...EMPTY_JOB,
      format: 2,
      title: 'Ticket hut',
      sheet: sheet.id,
      variant: null,
      clips,
      places,
    },
    sheet,
    sources: { s: source },
    artifacts: paths.map((path, i) => ({
      path,
      role: 'sound',
      bytes: 4000,
      sha256: String(i).repeat(64),
      madeOf: '',
      parts: [{ clip: ofClip(i), offset: 0, length: 4000, facts, report: {} as never, findings: [] }],
    })),
    findings: [],
  };
}

const module = targetOf('numbered-sound-module');
const record = recordFor(module, ['0003.wav', '0000.wav', '0005.wav'], { 3: 'a', 5: 'a' });
const textOf = (id: string, of = record) => noteFiles(of, [id])[0]?.text ?? '';

describe('the slot table', () => {
  test('in the order of the places, and read again as it was written', () => {
    const lines = slotLinesOf(record);
    expect(lines.map(({ number, sound, file }) => [number, sound, file])).toEqual([
      [0, '=Winch', '0000.wav'],
      [3, 'Upper, "station"', '0003.wav'],
      [5, 'Upper, "station"', '0005.wav'],
    ]);
    const csv = textOf('slots');
    expect(parseCsv(csv)[0]).toEqual(['number', 'label', 'sound', 'file', 'seconds', 'bytes', 'remark']);
    // Nothing in it is a formula to a spreadsheet.
    expect(csv).toContain('\r\n0,, =Winch,0000.wav,');
    expect(readSlotTable(csv, 'slots.csv').map(({ number, cells }) => [number, cells[0]])).toEqual([
      [0, '=Winch'],
      [3, 'Upper, "station"'],
      [5, 'Upper, "station"'],
    ]);
  });

  test('says what the device does not have', () => {
    const places = { words: ['button'], first: 1, count: 4, labels: { '2': 'horn' } };
    const line = { sound: 'Bell', file: 'bell.wav', seconds: 1.5, bytes: 3 };
    const rows = parseCsv(
      slotTableCsv({ places }, [
        { ...line, number: 2 },
        { ...line, number: 9 },
      ]),
    );
    expect(rows.slice(1)).toEqual([
      ['2', 'horn', 'Bell', 'bell.wav', '1.500', '3', ''],
      ['9', '', 'Bell', 'bell.wav', '1.500', '3', 'the device has no button 9'],
    ]);
  });

  test.each([
    ['slot,sound\n1,a\nx,b', /t\.csv, line 3: it does not begin with a number/],
    ['1,a\n2,b\n1,c', /t\.csv, line 3: number 1 occurs twice/],
    ['1,bell\n'.repeat(200_000), /^t\.csv is larger than 1\.00 MB; keep the lines that this set needs\.$/],
  ])('%.40j is refused in words', (text, message) => expect(() => readSlotTable(text, 't.csv')).toThrow(message));
});

test('the READ-ME says what is here, where it goes and what to do', () => {
  const text = textOf('read-me');
  expect(text).toContain('For: Numbered sound module');
  expect(text).toMatch(/0003\.wav +Upper, "station" +number 3/);
  expect(text).toContain('Do not change the numbers in the names');
  expect(text).toContain('Nothing else may be on the card');
  expect(text).toContain('Do not copy READ-ME.txt itself.');
  expect(text).toContain('restart the device');
  // Any reader shows it: plain letters, lines ended for every system.
  expect(text).toMatch(/^[\x20-\x7e\r\n]*$/);
  expect(text.replaceAll('\r\n', '')).not.toMatch(/[\r\n]/);
});

test.each([
  ['numbered-sound-module', false],
  ['desk-phone-ring-tone', true],
])('%s bears a READ-ME: %s', (id, wanted) => expect(bearsReadMe(targetOf(id))).toBe(wanted));

test('the record says what went in, what each station did, and what came out', () => {
  const text = textOf('record');
  const section = text.slice(text.indexOf('0003.wav'), text.indexOf('0000.wav'));
  expect(section).toContain(`Went in: SHA-256 ${source.sha256}`);
  expect(section).toContain('0'.repeat(64));
  for (const station of ['Cut', 'Channels', 'Rate', 'Level', 'Ends', 'Depth', 'Wrap']) {
    expect(section).toMatch(new RegExp(`^    ${station}: .+\\. .+$`, 'm'));
  }
  expect(section.match(/sample rate: /g)).toHaveLength(2);
});

test('a player is for sets of arrays that it can play', () => {
  expect(() => noteFiles(record, ['player-c'])).toThrow(/Player in C: this set has no arrays .*; leave player-c out\./);
  const board = recordFor(targetOf('microcontroller-8-bit-dac'), ['upper_station.h'], {});
  const withFacts = (encoding: string) => {
    const [artifact] = board.artifacts;
    const parts = (artifact?.parts ?? []).map((part) => ({
      ...part,
      facts: { ...facts, container: 'c-header', encoding },
    }));
    return { ...board, artifacts: artifact ? [{ ...artifact, parts }] : [] };
  };
  expect(() => noteFiles(withFacts('ms-adpcm'), ['player-c'])).toThrow(
    /No array of this set can be played .*upper_station\.h: ms-adpcm/,
  );
  expect(noteFiles(withFacts('pcm-u8'), ['player-c'])[0]?.text).toContain('#include "upper_station.h"');
});

test('a note that there is not is refused with the one meant', () => {
  expect(() => noteFiles(record, ['readme'])).toThrow(
    /There is no note "readme"; there are read-me, slots, record, .*: perhaps read-me/,
  );
});
