import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Finding, type Requirement, sheetText, type Target, targetOf, targets } from '@tambur/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { check } from './commands/check.ts';
import { make } from './commands/make.ts';
import { showSheet } from './commands/sheet.ts';
import { listTargets } from './commands/targets.ts';
import { EXIT } from './exit.ts';

const demo = (name: string) => fileURLToPath(new URL(`../demo/sounds/${name}`, import.meta.url));
const bells = [demo('departure-chime.flac'), demo('upper-station.ogg')];

let folder: string;
let data: string[];
let words: string[];
let told: (readonly [file: number, of: number])[];
const output = {
  data: (text: string) => data.push(text),
  words: (text: string) => words.push(text),
  progress: (file: number, of: number) => told.push([file, of]),
};
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'sheets-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

/** Runs a command with nothing said yet. */
async function run(command: () => number | Promise<number>): Promise<number> {
  data = [];
  words = [];
  told = [];
  return command();
}

const path = (name: string) => join(folder, name);

test('all sheets as data, and one as a file that comes back', async () => {
  expect(await run(() => listTargets(output, { json: true }))).toBe(EXIT.met);
  const listed: readonly (Target & { readonly asked: readonly Requirement[] })[] = JSON.parse(data.join(''));
  expect(listed.map(({ asked: _, ...sheet }) => sheet)).toEqual(targets);
  expect(listed[0]?.asked).toContainEqual({ key: 'sample-rate', kind: 'sample-rate', anyOf: [8000] });
  await run(() => showSheet(output, { target: 'numbered-sound-module', variant: '4-bit' }));
  writeFileSync(path('module.json'), data.join('\n'));
  const out = path('card');
  expect(await run(() => make(output, bells, { target: path('module.json'), out, set: [] }))).toBe(EXIT.met);
  expect(readdirSync(out).sort()).toEqual(['0000.wav', '0001.wav', 'slots.txt']);
  expect(readFileSync(join(out, 'slots.txt'), 'utf8')).toBe(
    'slot\tfile\tsound\n0\t0000.wav\tdeparture-chime\n1\t0001.wav\tupper-station\n',
  );
});

test('blanks are filled on the command line: two bars of 93 a minute, and a sheet that keeps that', async () => {
  const choice = { target: 'loop-player', value: ['tempo=93', 'beats=3'] };
  const out = path('loops');
  const json = { out, set: [], json: true };
  expect(await run(() => make(output, [demo('summit-tune.ogg')], { ...choice, ...json }))).toBe(EXIT.met);
  // One bar of three beats lasts 60 / 93 * 3 s; of 1, 2 or 4 of them, two come nearest to 5.4 s from below.
  expect(JSON.parse(data.join(''))[0].facts.frames).toBe(Math.round((2 * 3 * 60 * 48_000) / 93));
  await run(() => showSheet(output, choice));
  writeFileSync(path('loop.json'), data.join('\n'));
  expect(await run(() => make(output, [demo('summit-tune.ogg')], { target: path('loop.json'), ...json }))).toBe(
    EXIT.met,
  );
  expect(JSON.parse(data.join(''))[0].facts.frames).toBe(Math.round((2 * 3 * 60 * 48_000) / 93));
});

test.each([
  [{ target: 'no-such.json' }, /no-such\.json cannot be read \(ENOENT\); name a sheet's file or an id\./],
  [{ target: 'toaster' }, /There is no target "toaster"/],
  [{ target: 'loop-player', variant: 'x' }, /Loop player has no variant "x"; it has none, so leave it out\./],
  [{ target: 'loop-player', value: ['x=1'] }, /Loop player has no blank "x"; choose one of: tempo, beats\./],
  [{ target: 'loop-player', value: ['tempo'] }, /--value tempo is not a value; write it as blank=value/],
  [{ target: 'loop-player', value: ['tempo=5000'] }, /bars, tempo: it must be 400 or less; choose another value\./],
  [{ target: 'portable-player', variant: 'x' }, /has no variant "x"; choose one of: 128-kbit, 192-kbit, 320-kbit\./],
])('%j is refused in words', async (choice, message) => {
  await expect(run(() => check(output, bells, choice))).rejects.toThrow(message);
});

test('a sheet whose file is broken is refused with its line', async () => {
  writeFileSync(path('broken.json'), sheetText(targetOf('loop-player')).replace('"beats": 4', '"beats": "four"'));
  await expect(run(() => check(output, bells, { target: path('broken.json') }))).rejects.toThrow(
    /broken\.json, line \d+: requirements\.1\.beats: /,
  );
});

test('a folder is checked as a card: folders, and what lies beside the sounds', async () => {
  const out = path('stick');
  const target = 'percussion-pad-sample';
  expect(await run(() => make(output, bells, { target, out, set: [] }))).toBe(EXIT.met);
  expect(await run(() => check(output, [out], { target }))).toBe(EXIT.met);
  writeFileSync(join(out, '.hidden'), '');
  expect(await run(() => check(output, [out], { target, json: true }))).toBe(EXIT.broken);
  const entries: { findings: Finding[] }[] = JSON.parse(data.join(''));
  expect(entries[0].findings.find(({ requirement }) => requirement === 'nothing-else')).toMatchObject({
    verdict: 'breaks',
    found: '.hidden',
  });

  const cues = path('cues');
  await run(() => make(output, bells, { target: 'transmitter-spoken-cue', out: cues, set: [] }));
  expect(readdirSync(join(cues, 'sounds', 'en')).sort()).toEqual(['depart.wav', 'upper.wav']);
  expect(await run(() => check(output, [cues], { target: 'transmitter-spoken-cue' }))).toBe(EXIT.met);
  expect(data.join('\n')).toContain('meets    folder: wanted sounds/en, found sounds/en');
});

describe('a card is checked file by file, each as what it is', () => {
  const listOf = async (card: string, target: string) => {
    const code = await run(() => check(output, [card], { target, json: true }));
    const entries: { file: string; role: string; findings: Finding[] }[] = JSON.parse(data.join(''));
    const list = entries.find(({ role }) => role === 'list');
    return {
      code,
      roles: entries.map(({ role }) => role).sort(),
      list: list?.findings.find(({ key }) => key === 'list'),
    };
  };
  const made = async (target: string) => {
    const out = path(`card-${target}`);
    expect(await run(() => make(output, bells, { target, out, set: ['cut.start=0', 'cut.end=20000'] }))).toBe(EXIT.met);
    return out;
  };

  test('a list file is read as a list file', async () => {
    const target = 'desk-phone-ring-tone';
    const card = await made(target);
    expect(await listOf(card, target)).toMatchObject({
      code: EXIT.met,
      roles: ['list', 'sound', 'sound'],
      list: { verdict: 'meets', found: '2 rows' },
    });
    const list = join(card, 'ring-tones.txt');
    const whole = readFileSync(list, 'utf8');
    for (const [text, found] of [
      [
        whole.replace('upper-station.raw', 'lower-station.raw'),
        /without a file: lower-station\.raw; not listed: upper-station\.raw/,
      ],
      [`${whole}# old tones\n`, /line 3 is not a row: # old tones/],
      ['', /0 rows; not listed: .*no sound in it/],
    ] as const) {
      writeFileSync(list, text);
      const answer = await listOf(card, target);
      expect([answer.code, answer.list?.verdict]).toEqual([EXIT.broken, 'breaks']);
      expect(answer.list?.found).toMatch(found);
    }
  });

  test('an index header is what it is, and what it states is compared with the sounds', async () => {
    const target = 'microcontroller-5-bit-ladder';
    const card = await made(target);
    expect(await listOf(card, target)).toMatchObject({
      code: EXIT.met,
      roles: ['list', 'sound', 'sound'],
      list: { verdict: 'meets' },
    });
    const header = join(card, 'sounds.h');
    writeFileSync(header, readFileSync(header, 'utf8').replace(/\[\d+\]/, '[99]'));
    const { code, list } = await listOf(card, target);
    expect([code, list?.verdict]).toEqual([EXIT.broken, 'breaks']);
    expect(list?.found).toMatch(/gives .* 99 soundBytes, but it has /);
  });

  test('a ZIP stands for the card, as a folder does; hidden files and damage are said', async () => {
    const card = await made('numbered-sound-module');
    writeFileSync(join(card, '.hidden'), '');
    const zip = path('card.zip');
    execFileSync('python3', ['-m', 'zipfile', '-c', zip, ...readdirSync(card).map((name) => join(card, name))]);
    for (const where of [card, zip]) {
      const { code, roles, list } = await listOf(where, 'numbered-sound-module');
      expect([code, roles, list?.verdict]).toEqual([EXIT.broken, ['list', 'sound', 'sound'], 'meets']);
    }
    writeFileSync(zip, readFileSync(zip).subarray(0, 50));
    await expect(run(() => check(output, [zip], { target: 'numbered-sound-module' }))).rejects.toThrow(
      /card\.zip is damaged/,
    );
  });
});

test('all sounds in one C file with an index, which a compiler takes', async () => {
  const board: Target = {
    ...targetOf('microcontroller-8-bit-dac'),
    packs: [
      {
        key: 'sounds',
        path: 'sounds.h',
        form: 'source',
        header: '/* All sounds of the panel. */',
        index: '\nstatic const struct { const uint8_t *data; uint32_t length; } sounds[] = {',
        row: '  { {identifier}, {soundBytes} },',
        footer: '};',
      },
    ],
  };
  writeFileSync(path('board.json'), sheetText(board));
  const out = path('src');
  const set = ['cut.start=0', 'cut.end=20000'];
  expect(await run(() => make(output, bells, { target: path('board.json'), out, set }))).toBe(EXIT.met);
  expect(readdirSync(out)).toEqual(['sounds.h']);
  writeFileSync(
    join(out, 'main.c'),
    '#include <stdio.h>\n#include "sounds.h"\nint main(void) { for (unsigned i = 0; i < 2; i++) fwrite(sounds[i].data, 1, sounds[i].length, stdout); return 0; }\n',
  );
  execFileSync('cc', ['-Wall', '-Werror', '-o', join(out, 'main'), join(out, 'main.c')]);
  // Sound by sound it is checked, too.
  expect(await run(() => check(output, [join(out, 'sounds.h')], { target: path('board.json'), json: true }))).toBe(
    EXIT.met,
  );
  // Two sounds, but one file.
  expect(told.every(([file, of]) => file === 1 && of === 1)).toBe(true);
  const [pack]: { role: string; findings: Finding[] }[] = JSON.parse(data.join(''));
  expect([pack.role, pack.findings.filter(({ title }) => /^sound 2: encoding$/.test(title)).length]).toEqual([
    'pack',
    1,
  ]);
  const bytes = execFileSync(join(out, 'main'));
  // What the same clips are as bare bytes.
  const bare = path('bare');
  const wrap = ['wrap.container=headerless', 'wrap.extension=bin'];
  await run(() => make(output, bells, { target: 'microcontroller-8-bit-dac', out: bare, set: [...set, ...wrap] }));
  const wanted = ['departure_chime.bin', 'upper_station.bin'].map((name) => readFileSync(join(bare, name)));
  expect(bytes.equals(Buffer.concat(wanted))).toBe(true);
});
