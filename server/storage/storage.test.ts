import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { mkdir, open } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { coarser, type Facts, PEAK_STEP, PEAK_STEPS, PowersBuilder, peaksOf } from '@tambur/core';
import { afterEach, beforeEach, expect, test } from 'vitest';
import { attachment } from '../routes/sources.ts';
import { removeStray } from './data-folder.ts';
import { publish } from './disk.ts';
import { openSourceSound, soundFileReader, soundWriter, storedRange } from './sound-file.ts';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'tambur-storage-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const channels = [0, 1].map((c) => Float32Array.from({ length: 300_001 }, (_, i) => Math.sin(i * (c + 1))));
const facts = { sampleRate: 44_100, channels: 2, frames: 300_001 } as Facts;

test('a decoded sound is written in blocks and read in any range', async () => {
  const file = await open(join(folder, 'sound'), 'w+');
  try {
    const writer = soundWriter(file, 2);
    for (const [from, to] of [
      [0, 7],
      [7, 280_000],
      [280_000, 300_001],
    ]) {
      await writer.add(channels.map((samples) => samples.subarray(from, to)));
    }
    await writer.end();
    const reader = soundFileReader(file, facts);
    for (const [start, count] of [
      [0, 1],
      [262_143, 3],
      [299_990, 11],
      [0, 300_001],
    ] as const) {
      const part = await reader.read(start, count);
      expect(part).toEqual(channels.map((samples) => samples.slice(start, start + count)));
    }
    await expect(reader.read(300_000, 2)).rejects.toThrow('shorter than its facts say');
  } finally {
    await file.close();
  }
});

test('plain samples are read from the original; where decoded ones are beside it, from those', async () => {
  const files = { original: join(folder, 'original'), sound: join(folder, 'sound') };
  const levels = Int16Array.from({ length: 2000 }, (_, i) => 32_767 * Math.sin(i * i));
  writeFileSync(files.original, levels);
  const reading = { encoding: 'pcm-s16le', sampleRate: 8000, channels: 2, skip: 4 };
  const first = async () => {
    const sound = await openSourceSound(files, { ...facts, sampleRate: 8000, frames: 999 }, reading);
    const [left, right] = await sound.read(7, 2);
    await expect(sound.read(998, 2)).rejects.toThrow(/ends before|shorter/);
    await sound.close();
    return [left[0], right[0], left[1], right[1]];
  };
  expect(await first()).toEqual([...levels.slice(16, 20)].map((level) => level / 32_768));
  writeFileSync(
    files.sound,
    Float32Array.from({ length: 2 * 999 }, (_, i) => i),
  );
  expect(await first()).toEqual([14, 15, 16, 17]);
});

test('the places of the peaks follow one another without a gap', () => {
  let end = 0;
  const finest = peaksOf(channels, PEAK_STEP);
  for (const step of PEAK_STEPS) {
    const range = storedRange(facts, 'peaks', step);
    expect(range?.offset).toBe(end);
    expect(range?.length).toBe((step === PEAK_STEP ? finest : coarser(finest, step / PEAK_STEP)).values.byteLength);
    end += range?.length ?? 0;
  }
  expect(storedRange(facts, 'peaks', 100)).toBeNull();
  // The powers come after them.
  const powers = new PowersBuilder(channels.length);
  powers.add(channels);
  for (const [level, values] of powers.levels().entries()) {
    expect(storedRange(facts, 'powers', PEAK_STEPS[level])).toEqual({ offset: end, length: values.byteLength });
    end += values.byteLength;
  }
  expect(storedRange(facts, 'powers', 100)).toBeNull();
});

test('publishing gives a folder its real name; a taken name is not overwritten', async () => {
  await mkdir(join(folder, 'a.part'));
  writeFileSync(join(folder, 'a.part', 'x'), 'x');
  await publish(join(folder, 'a.part'), join(folder, 'a'));
  expect(readdirSync(folder)).toEqual(['a']);
  await mkdir(join(folder, 'a.part'));
  writeFileSync(join(folder, 'a.part', 'y'), 'y');
  await expect(publish(join(folder, 'a.part'), join(folder, 'a'))).rejects.toThrow();
  expect(readdirSync(join(folder, 'a'))).toEqual(['x']);
});

test('stray entries go, the others stay', async () => {
  for (const name of ['a', 'b.part', 'c.part']) await mkdir(join(folder, name));
  expect(await removeStray(folder, (name) => name.endsWith('.part'))).toBe(2);
  expect(readdirSync(folder)).toEqual(['a']);
});

test.each([
  ['bell.wav', 'attachment; filename="bell.wav"'],
  ['a "b"\r\n.wav', 'attachment; filename="a \\"b\\"__.wav"'],
  ['Übung.wav', 'attachment; filename="Ubung.wav"; filename*=UTF-8\'\'%C3%9Cbung.wav'],
  ['東京.wav', 'attachment; filename="DongJing.wav"; filename*=UTF-8\'\'%E6%9D%B1%E4%BA%AC.wav'],
])('the name %j cannot break out of its header', (name, header) => expect(attachment(name)).toBe(header));
