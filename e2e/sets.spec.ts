import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, readdirSync, readFileSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { expect, test } from '@playwright/test';
import { scratch, sha256, tambur, wavBytes, writeFiles } from './support/files.ts';

/** Sets on the command line: many files at once, jobs, and a firmware's build. */

const hashes = (folder: string) =>
  Object.fromEntries(readdirSync(folder).map((name) => [name, sha256(readFileSync(join(folder, name)))]));

test('a folder of files, on several cores and on one: the same bytes; what plays where by a table', () => {
  const folder = scratch();
  const sounds = join(folder, 'sounds');
  mkdirSync(sounds);
  writeFiles(
    sounds,
    Object.fromEntries(Array.from({ length: 6 }, (_, i) => [`sound ${i + 1}.wav`, wavBytes(0.4 + i / 10)])),
  );
  writeFileSync(join(sounds, '.hidden'), 'x');
  const target = ['--target', 'numbered-sound-module'];
  const [one, many, placed] = ['one', 'many', 'placed'].map((name) => join(folder, name));
  expect(tambur('make', ...target, sounds, '--out', one, '--jobs', '1').code).toBe(0);
  expect(tambur('make', ...target, sounds, '--out', many, '--jobs', '2').code).toBe(0);
  expect(hashes(many)).toEqual(hashes(one));
  expect(readdirSync(one)).toHaveLength(7);
  const table = join(folder, 'slots.csv');
  writeFileSync(table, 'number,sound\n7,sound 1\n3,sound 2.wav\n9,sound 1\n');
  expect(tambur('make', ...target, sounds, '--out', placed, '--slots', table, '--notes', 'slots').code).toBe(0);
  const found = hashes(placed);
  expect(found['0007.wav']).toBe(hashes(one)['0000.wav']);
  expect(found['0009.wav']).toBe(found['0007.wav']);
  expect(found['0003.wav']).toBe(hashes(one)['0001.wav']);
  expect(readFileSync(join(placed, 'slot-table.csv'), 'utf8')).toContain('\r\n7,,sound 1,0007.wav,');
  // The card is what its sheet wants, but for the table that was asked for.
  execFileSync('rm', [join(placed, 'slot-table.csv')]);
  expect(tambur('check', ...target, placed).code).toBe(0);
  writeFileSync(table, '1,horn\n');
  const refused = tambur('make', ...target, sounds, '--out', placed, '--slots', table);
  expect([refused.code, refused.stderr]).toEqual([
    2,
    `${table}: number 1 names horn, but no file of the set has that name.\n`,
  ]);
});

test("a device's own list goes on: its rows stay, those of the set come in", () => {
  const folder = scratch();
  const [bell] = writeFiles(folder, { 'bell.wav': wavBytes(0.6) });
  const own = join(folder, 'ring-tones.txt');
  writeFileSync(own, 'Old one\told.raw\r\n');
  const out = join(folder, 'card');
  expect(tambur('make', '--target', 'desk-phone-ring-tone', bell ?? '', '--out', out, '--list', own).code).toBe(0);
  expect(readFileSync(join(out, 'ring-tones.txt'), 'utf8')).toBe('Old one\told.raw\r\nbell\tbell.raw\r\n');
  writeFileSync(own, 'nothing that names a file');
  const refused = tambur('make', '--target', 'desk-phone-ring-tone', bell ?? '', '--out', out, '--list', own);
  expect([refused.code, refused.stderr]).toEqual([
    2,
    expect.stringMatching(/^The list ring-tones\.txt of the device has no row that names a file/),
  ]);
});

test.describe('in a firmware build', () => {
  const example = () => {
    const folder = join(scratch(), 'firmware');
    cpSync('docs/examples/firmware', folder, { recursive: true });
    writeFiles(folder, { 'bell.wav': wavBytes(0.7, 1), 'doors.wav': wavBytes(0.5, 2) });
    return folder;
  };
  const make = (folder: string) =>
    spawnSync('make', [`TAMBUR=${resolve('tambur')}`], { cwd: folder, encoding: 'utf8' });

  test('make builds sounds with their player, and again only what has changed', () => {
    const folder = example();
    const first = make(folder);
    expect([first.status, first.stderr.includes('rror')]).toEqual([0, false]);
    expect(readFileSync(join(folder, 'sounds.d'), 'utf8')).toContain('doors.wav');
    const heard = execFileSync(join(folder, 'panel'));
    // 0.5 s, 0.1 s of silence, twice, and 0.5 s, at 16 000 Hz with 16 bits.
    expect(heard.length / 2).toBe(2 * (8000 + 1600) + 8000);
    expect(make(folder).stdout).toMatch(/up to date/);
    const built = statSync(join(folder, 'panel')).mtimeMs;
    const later = new Date(Date.now() + 5000);
    writeFiles(folder, { 'doors.wav': wavBytes(0.25, 2) });
    utimesSync(join(folder, 'doors.wav'), later, later);
    expect(make(folder).status).toBe(0);
    expect(statSync(join(folder, 'panel')).mtimeMs).toBeGreaterThan(built);
    expect(execFileSync(join(folder, 'panel')).length / 2).toBe(2 * (8000 + 1600) + 4000);
  });

  test('a job that cannot be built says why, and how to go on', () => {
    const folder = example();
    const job = join(folder, 'panel.json');
    writeFileSync(job, readFileSync(job, 'utf8').replace('"fadeOut"', '"fadeOt"'));
    const { code, stderr } = tambur('build', job, '--out', join(folder, 'out'));
    expect([code, stderr]).toEqual([
      2,
      expect.stringMatching(
        /panel\.json, line 14: clips\.0\.wishes\.ends\.fadeOt: there is no such entry; .*perhaps fadeOut; correct it/,
      ),
    ]);
    expect(tambur('build', join(folder, 'no.json'), '--out', 'x').stderr).toMatch(/no\.json does not exist/);
  });

  test('with --watch it builds again when a source has changed, until it is ended', async () => {
    const folder = example();
    const out = join(folder, 'out');
    const watching = spawn('./tambur', ['build', join(folder, 'panel.json'), '--out', out, '--watch'], {
      stdio: 'ignore',
    });
    try {
      const bell = () => {
        try {
          return readFileSync(join(out, 'bell.h'), 'utf8').match(/BELL_LENGTH (\d+)/)?.[1];
        } catch {
          return undefined;
        }
      };
      await expect.poll(bell).toBe('8000');
      await expect.poll(() => readdirSync(out).length).toBe(2);
      const job = join(folder, 'panel.json');
      writeFileSync(job, readFileSync(job, 'utf8').replace('22050', '11025'));
      await expect.poll(bell).toBe('4000');
    } finally {
      watching.kill();
    }
  });
});

test('what --set takes is explained, and a slip is answered with what was meant', () => {
  expect(tambur('settings', 'depth').stdout).toContain('depth.dither    none, rectangular, triangular, shaped\n');
  expect(tambur('settings', 'dept').stderr).toContain('perhaps depth');
  const { code, stderr } = tambur(
    'make',
    '--target',
    'loop-player',
    'x.wav',
    '--out',
    'y',
    '--set',
    'depth.dithr=none',
  );
  expect([code, stderr]).toEqual([
    2,
    'Setting depth.dithr: there is no such entry; there are bits, dither, rounding, seed, blanks: perhaps dither; choose another value.\n',
  ]);
  expect(tambur('make', '--target', 'desk-phone', 'x.wav', '--out', 'y').stderr).toMatch(
    /^There is no target "desk-phone", perhaps desk-phone-ring-tone;/,
  );
});
