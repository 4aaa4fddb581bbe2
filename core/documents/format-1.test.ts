import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { targets, withVariant } from '../targets/index.ts';
import { InputError } from '../words/index.ts';
import { parseDocument, readDocument, readSheet, settingsOf, sheetText, withSettings } from './index.ts';

const frozen = (name: string) => readFileSync(new URL(`./fixtures/format-1/${name}`, import.meta.url), 'utf8');

describe('sheets of format 1', () => {
  const names = readdirSync(new URL('./fixtures/format-1/sheets', import.meta.url));

  test('each is of a device that still has its sheet', () => {
    expect(targets.map(({ id }) => id)).toEqual(expect.arrayContaining(names.map((name) => name.replace('.json', ''))));
  });

  test.each(names)('%s is what ships today, or an earlier edition of it', (name) => {
    const old = readSheet(frozen(`sheets/${name}`), name);
    const today = targets.find(({ id }) => id === old.id);
    expect(old.edition).toBe(1);
    if (today?.edition === 1) expect(old).toEqual(today);
    // Written and read again it is the same.
    expect(readSheet(sheetText(old), name)).toEqual(old);
  });

  const own = readSheet(frozen('own-sheet.json'), 'own.json');

  test('a sheet of the user: each part where it is now', () => {
    expect(own).toMatchObject({
      format: 2,
      edition: 1,
      lists: [],
      packs: [{ key: 'sounds', path: 'sounds.h', form: 'source', header: '/* All sounds of the board. */' }],
      places: { words: ['button'], first: 1, count: 8, labels: {} },
      player: {
        reads: 'bare',
        assumes: { encoding: 'pcm-u8', sampleRate: 16_000, channels: 1 },
        'longest-name': 20,
        'plays-at': 16_000,
        block: { frames: 64, fill: 'previous' },
      },
      blanks: [],
      evidence: [],
    });
    expect(own.requirements.map(({ key }) => key).slice(4, 7)).toEqual([
      'duration',
      'duration-advised',
      'peak-advised',
    ]);
  });

  // As format 1 had them, written out by hand.
  test.each([
    ['older-firmware', ['container', 'encoding', 'sample-rate', 'channels', 'peak', 'extension', 'name'], 8000],
    [
      'bare',
      ['container', 'encoding', 'sample-rate', 'channels', 'duration', 'duration', 'peak', 'extension', 'name'],
      16_000,
    ],
  ])('its variant %s asks for the same as before', (id, kinds, rate) => {
    const { requirements, player } = withVariant(own, id);
    expect(requirements.map(({ kind }) => kind).slice(0, kinds.length)).toEqual(kinds);
    expect(player.assumes?.sampleRate).toBe(rate);
    const advised = requirements.find(({ key }) => key === 'duration-advised');
    expect(advised).toEqual(
      id === 'bare' ? { key: 'duration-advised', kind: 'duration', most: 0.4, advised: true } : undefined,
    );
  });

  test.each([
    [
      '"name": "sounds.h",\n    "header"',
      '"name": "../x",\n    "header"',
      /own\.json, line \d+: packs\.0\.path: a path has/,
    ],
    ['"first": 1', '"first": -1', /own\.json, line 46: places\.first: /],
    ['"row":', '"rows":', /packs\.0\.rows: /],
    [
      '"without": ["duration"]',
      '"without": ["codec"]',
      /variants\.0\.without\.0: the sheet has no part with the key "codec"/,
    ],
    ['"slots": {', '"slots": 3, "x": {', /line 46: places: /],
    ['"requirements": [', '"requirements": 3, "x": [', /line 5: requirements: /],
  ])('%s as %s is refused where it stands in the old file', (good, wrong, message) => {
    const text = frozen('own-sheet.json').replace(good, wrong);
    expect(() => readSheet(text, 'own.json')).toThrow(message);
  });
});

describe('jobs', () => {
  const job = parseDocument('job', frozen('job.json'), 'job.json');

  test('of format 1: cuts belong to pieces, and automatic is not said', () => {
    expect(job).toMatchObject({ format: 2, title: 'Spare cabin', sheet: 'spare-board', variant: 'older-firmware' });
    expect(job.clips.map(({ name, wishes, pieces }) => ({ name, wishes, cut: pieces[0].cut }))).toEqual([
      {
        name: 'Bell',
        wishes: { level: { peakDb: -6 }, ends: { fadeOut: { ms: 20 } } },
        cut: { start: 100, end: 2000 },
      },
      { name: 'Chime', wishes: {}, cut: undefined },
      { name: 'Bell again', wishes: { depth: { dither: 'shaped' } }, cut: { start: 300 } },
    ]);
    const { clips } = JSON.parse(frozen('job.json'));
    // The chain is told the same as before.
    for (const [i, clip] of job.clips.entries()) {
      const { version: _, ...settings } = clips[i].settings;
      expect(settingsOf(clip, job)).toEqual(settings);
    }
  });

  test('their wishes count where a clip has none; back to automatic goes by the job again', () => {
    const [clip] = job.clips;
    const wishes = { level: { peakDb: -9 }, rate: { sampleRate: 8000 } };
    expect(settingsOf(clip, { wishes })).toMatchObject({
      level: { peakDb: -6 },
      rate: { sampleRate: 8000 },
      depth: 'automatic',
    });
    const plain = withSettings(clip, { level: 'automatic', cut: 'automatic', name: 'Bells' });
    expect(plain).toEqual({
      ...clip,
      name: 'Bells',
      wishes: { ends: clip.wishes.ends },
      pieces: [{ source: clip.pieces[0].source, gapMs: 0 }],
    });
    expect(settingsOf(plain, { wishes })).toMatchObject({ level: { peakDb: -9 }, cut: 'automatic' });
    expect(withSettings(plain, { cut: { start: 3 } }).pieces[0].cut).toEqual({ start: 3 });
  });

  const text = JSON.stringify(job, null, 2);
  const [first, second] = job.clips;
  test.each([
    ['an id twice', text.replaceAll(second.id, first.id), /line \d+: clips\.1\.id: two clips have the id /],
    ['a place for no clip', text.replace('"places": {}', '"places": { "3": "x" }'), /places\.3: no clip has that id/],
    [
      'a place without a number',
      text.replace('"places": {}', '"places": { "horn": "x" }'),
      /places\.horn: a place is named/,
    ],
    ['a station that there is not', text.replace('"depth":', '"width":'), /clips\.2\.wishes\.width: /],
    ['a wish that there is not', text.replace('"peakDb"', '"peekDb"'), /clips\.0\.wishes\.level\.peekDb: /],
    ['a cut among the wishes', text.replace('"depth":', '"cut":'), /clips\.2\.wishes\.cut: /],
    [
      'two pieces',
      text.replace(/"gapMs": 0\s*\}/, '"gapMs": 0 }, { "source": "x", "gapMs": 0 }'),
      /clips\.0\.pieces: a clip has one/,
    ],
    ['a clip without a name', text.replace('"Chime"', '"  "'), /clips\.1\.name: a clip needs a name/],
    [
      'another format',
      text.replace('"format": 2', '"format": 3'),
      /job\.json is of format 3, and this Tambur reads up to format 2; use a newer Tambur\./,
    ],
  ])('with %s are refused', (_, broken, message) => {
    expect(broken).not.toBe(text);
    expect(() => parseDocument('job', broken, 'job.json')).toThrow(message);
  });

  test('whatever JSON it is, it is a job or one sentence', () => {
    const bits = fc.record({
      format: fc.constantFrom(1, 2, 99, 'x'),
      clips: fc.array(fc.jsonValue({ maxDepth: 2 })),
      title: fc.jsonValue(),
      places: fc.jsonValue({ maxDepth: 1 }),
    });
    fc.assert(
      fc.property(
        fc.oneof(
          fc.jsonValue(),
          bits,
          bits.map((some) => ({ ...job, ...some })),
        ),
        (value) => {
          try {
            expect(readDocument('job', value, 'The job').format).toBe(2);
          } catch (error) {
            expect(error).toBeInstanceOf(InputError);
            expect((error as Error).message).toMatch(/^The job[^\n]+\.$/);
          }
        },
      ),
    );
  });
});

test('a delivery of format 1 keeps its files, its findings and the sheet as it was', () => {
  const old = JSON.parse(frozen('delivery.json'));
  const record = readDocument('delivery', old, 'The delivery');
  expect(record).toMatchObject({
    format: 2,
    id: old.id,
    core: '1',
    job: { title: 'Spare cabin' },
    sheet: { id: 'spare-board' },
  });
  expect(record.artifacts).toEqual([
    { path: 'sounds.h', role: 'pack', bytes: old.files[0].bytes, sha256: old.files[0].sha256, madeOf: '', parts: [] },
  ]);
  expect(record.findings).toHaveLength(old.files[0].findings.length + old.setFindings.length);
  // Read once more, as it is stored now.
  expect(readDocument('delivery', JSON.parse(JSON.stringify(record)), 'The delivery')).toEqual(record);

  const [{ findings }] = old.files;
  const sound = {
    ...old.files[0],
    name: 'bell.h',
    displayName: 'Bell',
    facts: {
      ...{ container: 'c-header', encoding: 'pcm-u8', sampleRate: 8000, channels: 1, frames: 9, bytes: 90 },
      ...{ tags: [], warnings: [], levels: { peak: [0], rms: [0] } },
    },
    report: {},
    findings: findings.slice(0, 7),
  };
  const alone = readDocument('delivery', { ...old, files: [sound] }, 'The delivery').artifacts[0];
  expect(alone).toMatchObject({ path: 'bell.h', role: 'sound' });
  expect(alone.parts.map(({ clip, length }) => [clip, length])).toEqual([[old.order.clips[0].clipId, sound.bytes]]);
  expect(alone.parts[0].findings.map(({ key }) => key)).toContain('sample-rate');
});
