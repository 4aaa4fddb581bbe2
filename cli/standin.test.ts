import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { causes, EMPTY_SHEET, faces, symptoms, wavFile } from '@tambur/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { explainFile } from './commands/explain.ts';
import { listenTo } from './commands/listen.ts';
import { tryOut } from './commands/try.ts';
import { EXIT } from './exit.ts';
import type { Output } from './output.ts';

let folder: string;
const at = (name: string) => join(folder, name);
const tone = (rate: number, channels = 1, seconds = 2) => ({
  sampleRate: rate,
  channels: Array.from({ length: channels }, () =>
    Float32Array.from({ length: seconds * rate }, (_, i) => {
      const t = i / rate;
      return 0.7 * Math.exp(-3 * (t % 0.5)) * Math.sin(2 * Math.PI * (400 + 200 * Math.floor(2 * t)) * t);
    }),
  ),
});
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'standin-'));
  writeFileSync(at('bell.wav'), wavFile(tone(8000), 16));
  writeFileSync(at('fast.wav'), wavFile(tone(16_000, 1, 1.5), 16));
  writeFileSync(at('wide.wav'), wavFile(tone(8000, 2), 16));
});
afterAll(() => rmSync(folder, { recursive: true }));

const radio = { target: 'two-way-radio-prompt' };

async function run(command: (output: Output) => Promise<number>) {
  const data: string[] = [];
  const code = await command({ data: (text) => data.push(text), words: () => undefined, progress: () => undefined });
  return { code, text: data.join('\n') };
}

describe('try', () => {
  test('says what is shown, refused and heard, and writes it', async () => {
    const out = at('heard.wav');
    const { code, text } = await run((output) => tryOut(output, folder, { ...radio, json: true, play: 'bell', out }));
    const { shown, refused, played, log } = JSON.parse(text);
    expect(code).toBe(EXIT.met);
    expect(shown).toEqual(['bell.wav', 'fast.wav'].map((name) => ({ entry: name, name })));
    expect(refused).toEqual([
      { entry: 'wide.wav', word: 'unsupported', reason: 'It is stereo; the device plays mono.' },
    ]);
    expect(played).toMatchObject({ entry: 'bell.wav', sampleRate: 8000, channels: 1, frames: 16_000, held: null, out });
    expect(log.at(-1)).toMatchObject({ entry: 'bell.wav', words: 'played at 8\u202f000 Hz, 16\u202f000 frames' });
    expect(readFileSync(out)).toHaveLength(44 + 2 * 16_000);
    rmSync(out);
  });

  test('what the sheet asks for and no trait answers for is not known, and is not called right', async () => {
    const sheet = {
      ...EMPTY_SHEET,
      id: 'waiting-room-gong',
      name: 'Waiting room gong',
      about: '',
      naming: { separator: '-' },
      requirements: [
        { key: 'duration', kind: 'duration', most: 1 },
        { key: 'channels', kind: 'channels', anyOf: [1] },
      ],
      player: { reads: 'header', 'plays-channels': { anyOf: [1], others: 'refuses' } },
    };
    writeFileSync(at('gong.json'), JSON.stringify(sheet));
    const gong = { target: at('gong.json'), json: true };
    const said =
      'The sheet asks for duration at most 1.000 s, and this has 2.000 s, 16\u202f000 frames: what the device does with that is not known.';
    const { text } = await run((output) => tryOut(output, at('bell.wav'), gong));
    expect(JSON.parse(text).notKnown).toEqual([{ entry: 'bell.wav', words: said }]);
    const { text: cut } = await run((output) => explainFile(output, at('bell.wav'), { ...gong, symptom: 'cut-off' }));
    expect(JSON.parse(cut)).toMatchObject({ causes: [], answer: said });
    // What a trait answers for is known.
    const { text: wide } = await run((output) => tryOut(output, at('wide.wav'), gong));
    expect(JSON.parse(wide)).toMatchObject({ notKnown: [], refused: [{ entry: 'wide.wav' }] });
    rmSync(at('gong.json'));
  });

  test('a call goes first, and an entry that is not shown is refused in words', async () => {
    const held = await run((output) => tryOut(output, at('bell.wav'), { ...radio, json: true, play: '1', busy: true }));
    expect(JSON.parse(held.text).played).toMatchObject({ frames: 0, held: 'A call or traffic goes first.' });
    await expect(run((output) => tryOut(output, folder, { ...radio, play: 'gong' }))).rejects.toThrow(
      'There is no entry "gong"; choose one of: bell.wav, fast.wav.',
    );
  });
});

describe('explain', () => {
  test.each([
    ['fast.wav', 'too-slow', 'wrong-rate'],
    ['wide.wav', 'refused', 'wrong-channels'],
  ])('%s, %s: %s first', async (name, symptom, cause) => {
    const { code, text } = await run((output) => explainFile(output, at(name), { ...radio, json: true, symptom }));
    const { causes, ...rest } = JSON.parse(text);
    expect([code, rest.symptom, rest.answer, causes[0].cause]).toEqual([EXIT.met, symptom, '', cause]);
    expect(causes[0].strength).toBeGreaterThan(0.5);
    expect(causes[0].seen).toMatch(/\.$/);
    expect(causes[0].mend).not.toBe('');
  });

  test.each(symptoms.map(({ id }) => id))('%s is answered for a file without a fault', async (symptom) => {
    const { text } = await run((output) => explainFile(output, at('bell.wav'), { ...radio, json: true, symptom }));
    expect(JSON.parse(text)).toMatchObject({
      symptom,
      causes: [],
      answer: 'Nothing wrong with the file: look at the device.',
    });
  });

  test.each([
    ['fast.wav', 'one-side', 'It was made for another rate (“Too slow and too low”)'],
    ['wide.wav', 'too-slow', '(“It is listed, but refused”)'],
  ])('of %s, asked about %s, its own fault is said', async (name, symptom, fault) => {
    const { text } = await run((output) => explainFile(output, at(name), { ...radio, json: true, symptom }));
    const { causes, answer } = JSON.parse(text);
    expect(causes).toEqual([]);
    expect(answer).toContain('something else is wrong with it: ');
    expect(answer).toContain(fault);
  });

  test('a symptom that there is not is refused with the nearest', async () => {
    await expect(run((output) => explainFile(output, at('bell.wav'), { ...radio, symptom: 'slow' }))).rejects.toThrow(
      'There is no symptom "slow"; perhaps too-slow; --symptom list names them all.',
    );
  });
});

test('listen finds a file in a recording of it, later and at another rate', async () => {
  const { channels } = tone(8000);
  const late = Float32Array.from({ length: 28_000 }, (_, i) => channels[0][i - 6000] ?? 0);
  writeFileSync(at('recording.wav'), wavFile({ sampleRate: 11_025, channels: [late] }, 16));
  const heard = await run((output) => listenTo(output, at('bell.wav'), at('recording.wav'), { ...radio, json: true }));
  const { best, sampleRate, delay } = JSON.parse(heard.text);
  expect([heard.code, best.hypothesis]).toEqual([EXIT.met, 'wrong-rate']);
  expect(Math.abs(sampleRate / 11_025 - 1)).toBeLessThan(0.005);
  expect(delay).toBeCloseTo(6000 / 11_025, 1);
  rmSync(at('recording.wav'));
});

test('bare samples that are played as they are taken are wrong all the same if their source says so, cut or whole', async () => {
  const sheet = {
    ...EMPTY_SHEET,
    id: 'platform-gong',
    name: 'Platform gong',
    about: '',
    naming: { separator: '-' },
    player: { reads: 'bare', assumes: { encoding: 'pcm-u8', channels: 1 }, 'plays-at': 8000 },
  };
  writeFileSync(at('platform.json'), JSON.stringify(sheet));
  const fast = tone(16_000, 1, 3).channels[0];
  writeFileSync(
    at('gong.raw'),
    Uint8Array.from(fast, (value) => 128 + Math.round(127 * value)),
  );
  writeFileSync(at('heard.wav'), wavFile({ sampleRate: 8000, channels: [fast] }, 16));
  writeFileSync(at('source.wav'), wavFile(tone(32_000, 1, 9), 16));
  const listened = async (source?: string) => {
    const options = { target: at('platform.json'), json: true, ...(source ? { source } : {}) };
    return JSON.parse((await run((output) => listenTo(output, at('gong.raw'), at('heard.wav'), options))).text).best;
  };
  expect(await listened()).toMatchObject({ hypothesis: 'right' });
  expect(await listened(at('source.wav'))).toMatchObject({
    hypothesis: 'wrong-rate',
    title: 'It was made for 16\u202f000 Hz and is played at 8\u202f000 Hz',
  });
  for (const name of ['platform.json', 'gong.raw', 'heard.wav', 'source.wav']) rmSync(at(name));
});

test('docs/tryout.md names every symptom, cause and face, and none that there is not', () => {
  const text = readFileSync('docs/tryout.md', 'utf8');
  const section = (title: string) => text.split(`## ${title}\n`)[1].split('\n## ')[0];
  const named = (title: string) =>
    [...section(title).matchAll(/^\| (.*?) \|/gm)].flatMap(([, cell]) =>
      [...cell.matchAll(/`([a-z-]+)`/g)].map(([, id]) => id),
    );
  const ids = (all: readonly { readonly id: string }[]) => all.map(({ id }) => id).sort();
  expect(named('Symptoms').sort()).toEqual(ids(symptoms));
  expect(named('Causes').sort()).toEqual(ids(causes));
  expect(named('Faces').sort()).toEqual(ids(faces));
  for (const { id, title } of symptoms) expect(section('Symptoms')).toContain(`| \`${id}\` | ${title} |`);
});
