import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as v from 'valibot';
import { describe, expect, test, vi } from 'vitest';
import type { KindOfWay } from './chain/ways/way.ts';
import type { Container } from './containers/index.ts';
import type { BlockEncoding, IntegerEncoding } from './encodings/index.ts';
import type { FieldReader } from './fields/field-list.ts';
import { inForm } from './forms/index.ts';
import type { Note } from './notes/note.ts';
import type { FaceKind } from './standin/faces/face.ts';
import type { Trait } from './standin/index.ts';
import type { Cause } from './symptoms/cause.ts';
import type { InputError as InputErrorClass } from './words/index.ts';

/**
 * What CONTRIBUTING.md promises: each of these is one file and one line in its list.
 * Here each gets such a line, and nothing else is touched.
 */

vi.mock('./encodings/list.ts', async (original) => {
  const list = await original<typeof import('./encodings/list.ts')>();
  return {
    ...list,
    encodings: [...list.encodings, invented(list.encodings.find(({ id }) => id === 'pcm-u8') as IntegerEncoding)],
    blockEncodings: [...list.blockEncodings, inventedBlocks(list.blockEncodings[0])],
  };
});
vi.mock('./containers/list.ts', async (original) => {
  const list = await original<typeof import('./containers/list.ts')>();
  return { ...list, containers: [tape(list.containers), await brackets(), ...list.containers] };
});
vi.mock('./fields/list.ts', async (original) => {
  const list = await original<typeof import('./fields/list.ts')>();
  return { ...list, fieldReaders: [tapeFields, ...list.fieldReaders] };
});
vi.mock('./notes/list.ts', async (original) => {
  const list = await original<typeof import('./notes/list.ts')>();
  return { ...list, notes: [...list.notes, postcard] };
});
vi.mock('./symptoms/causes/list.ts', async (original) => {
  const list = await original<typeof import('./symptoms/causes/list.ts')>();
  return { ...list, causes: [...list.causes, gremlin] };
});
vi.mock('./standin/faces/list.ts', async (original) => {
  const list = await original<typeof import('./standin/faces/list.ts')>();
  return { ...list, faces: [...list.faces, crank] };
});
vi.mock('./targets/sheets/list.ts', async (original) => {
  const { targets } = await original<typeof import('./targets/sheets/list.ts')>();
  return { targets: [...targets, { ...targets[0], id: 'cuckoo-clock', name: 'Cuckoo clock' }] };
});
vi.mock('./targets/requirements/list.ts', async (original) => {
  const list = await original<typeof import('./targets/requirements/list.ts')>();
  return { ...list, kinds: [...list.kinds, evenFrames] };
});
vi.mock('./standin/traits/list.ts', async (original) => {
  const list = await original<typeof import('./standin/traits/list.ts')>();
  return { ...list, traits: [...list.traits, backwards] };
});
vi.mock('./chain/stations/list.ts', async (original) => {
  const { stations } = await original<typeof import('./chain/stations/list.ts')>();
  const { cut, channels, ...others } = stations;
  return { stations: { cut, channels, turn: await turning(), ...others } };
});
vi.mock('./chain/ways/list.ts', async (original) => {
  const list = await original<typeof import('./chain/ways/list.ts')>();
  return { ...list, kindsOfWays: [patience, ...list.kindsOfWays] };
});

/** Eight bits turned upside down. */
const invented = (plain: IntegerEncoding): IntegerEncoding => ({
  ...plain,
  id: 'upside-down',
  title: '8-bit upside down',
  decode: (bytes) => plain.decode(bytes.map((byte) => 255 - byte)),
  encode: (samples) => plain.encode(samples).map((byte) => 255 - byte),
  silence: (bytes) => new Uint8Array(bytes).fill(127),
  decoding: () => ({ kind: 'code', lines: { c: ['return (int16_t)((127 - (int16_t)code) * 256);'] } }),
});

/** The blocks of another encoding under a name of their own. */
const inventedBlocks = (blocks: BlockEncoding | undefined): BlockEncoding => ({
  ...(blocks as BlockEncoding),
  id: 'striped-adpcm',
  title: 'striped ADPCM',
});

/** A container that says "TAPE", the channels, the encoding, the rate and the frames, and then the samples. */
function tape(others: readonly Container[]): Container {
  const bare = others.find(({ id }) => id === 'headerless') as Container;
  return {
    id: 'tape',
    title: 'Tape',
    extensions: ['tape'],
    describesItself: true,
    carries: ['upside-down', 'striped-adpcm'],
    recognises: (head) => String.fromCharCode(...head.subarray(0, 4)) === 'TAPE',
    read(file) {
      const head = file.read(0, 16);
      const view = new DataView(head.buffer, head.byteOffset, 16);
      const sampleRate = view.getUint32(8);
      const encoding = head[5] ? 'striped-adpcm' : 'upside-down';
      return {
        ...bare.read(file, { encoding, sampleRate, channels: head[4], skip: 16 }),
        container: 'tape',
        frames: view.getUint32(12),
      };
    },
    write(packing) {
      const head = new Uint8Array(16);
      head.set([...'TAPE'].map((char) => char.charCodeAt(0)));
      head[4] = packing.channels;
      head[5] = packing.encoding.kind === 'block' ? 1 : 0;
      new DataView(head.buffer).setUint32(8, packing.sampleRate);
      new DataView(head.buffer).setUint32(12, packing.frames);
      return { head, body: (data) => data, tail: () => new Uint8Array(0) };
    },
  };
}

/** A text form: numbers in square brackets. */
async function brackets(): Promise<Container> {
  const { textContainer } = await import('./containers/text/text-form.ts');
  return textContainer({
    id: 'brackets',
    title: 'Brackets',
    extensions: ['brk'],
    options: [],
    comment: ['# ', ''],
    before: ({ name }) => [`${name} = [`],
    line: () => ({ prefix: '  ', end: ',' }),
    lastEnd: '',
    after: () => [']'],
    opening: /\n\w+ = \[\n/,
    closing: ']',
    states: {},
  });
}

/** What the bytes of a tape say. */
const tapeFields: FieldReader = {
  recognises: (head) => String.fromCharCode(...head.subarray(0, 4)) === 'TAPE',
  read(fields) {
    fields.text('a tape', 4);
  },
};

const postcard: Note = {
  id: 'postcard',
  title: 'Postcard',
  path: 'postcard.txt',
  suits: () => true,
  text: ({ job }) => `Greetings from ${job.title}.`,
};

/** Is behind everything. */
const gremlin: Cause = {
  id: 'gremlin',
  title: 'A gremlin is in it',
  tellApart: 'Listen for giggling.',
  try: () => ({ signs: { dull: 1 }, seen: 'One gremlin.', mend: { words: 'feed it', where: 'device' } }),
};

const crank: FaceKind = {
  id: 'crank',
  title: 'Crank',
  about: 'Turn it.',
  schema: v.strictObject({ turns: v.optional(inForm(v.number(), { label: 'Turns', usual: 3 })) }),
};

const evenSchema = v.strictObject({ key: v.string(), kind: v.literal('even-frames') });

/** Wants an even number of frames. */
const evenFrames = {
  kind: 'even-frames',
  scope: 'file',
  schema: evenSchema,
  title: 'even frames',
  wanted: () => 'an even number of frames',
  check: (_: unknown, { facts }: { facts: { frames: number } }) => ({
    meets: facts.frames % 2 === 0,
    found: String(facts.frames),
    mend: 'take one frame off',
  }),
};

/** Shows its sounds in the order in which nobody copied them. */
const backwards: Trait<'backwards', true> = {
  id: 'backwards',
  title: 'Goes backwards',
  schema: v.literal(true),
  words: () => 'goes backwards',
  implies: () => [{ kind: 'even-frames' }],
  find: (_, { shown, refused }) => ({ shown: [...shown].reverse(), refused }),
};

/** A station before Rate: turns the sound upside down where that is wished, and shows in which format it came. */
async function turning() {
  const { station } = await import('./chain/station.ts');
  return station({
    id: 'turn',
    title: 'Turn',
    wish: v.strictObject({ over: v.boolean() }),
    needs: {},
    settle: (_, wished: { over: boolean } | undefined) => ({
      plan: { over: wished?.over ?? false },
      byHand: wished !== undefined,
      figure: wished?.over ? 'over' : 'as it is',
      why: 'Made up.',
    }),
    steps: ({ over }, format) => [
      {
        start() {
          formats.push(format);
          return { push: (block) => [over ? block.map((samples) => samples.map((value) => -value)) : block] };
        },
      },
    ],
    alternatives: () => [{ label: 'over', wish: { over: true } }],
    inPiece: (plan) => ({ plan, provisional: plan.over ? ['which way up'] : [] }),
    isAskedFor: () => false,
  });
}
const formats: unknown[] = [];

/** Leads out of everything: the first tenth of a second. */
const patience: KindOfWay = {
  title: 'Taste only',
  forClip: ({ facts }) => [{ station: 'cut', wish: { start: 0, end: facts.sampleRate / 10 }, label: 'Only a taste' }],
};

const core = await import('./index.ts');
const { noForeign } = await import('./standin/index.ts');
const { followingFrom } = await import('./targets/index.ts');
const { Stages } = await import('./chain/index.ts');
const { plainEncodingOf } = await import('./encodings/index.ts');
const { cPlayer } = await import('./notes/players/c.ts');
const { pythonPlayer } = await import('./notes/players/python.ts');
const { recordFor } = await import('./notes/players/fixtures/record.ts');
const { makeFrom } = await import('./delivery/fixtures/make.ts');
const { factsFor } = await import('./chain/fixtures/sources.ts');

const sound = {
  sampleRate: 8000,
  channels: [Float32Array.from({ length: 8001 }, (_, i) => 0.5 * Math.sin(i / 9))],
};

const sheetText = (encoding: string, more: readonly object[] = []) =>
  JSON.stringify({
    id: 'tape-deck',
    name: 'Tape deck',
    about: 'Made up.',
    requirements: [
      { key: 'container', kind: 'container', anyOf: ['tape'] },
      { key: 'encoding', kind: 'encoding', anyOf: [encoding] },
      { kind: 'even-frames' },
      ...more,
    ],
    naming: { separator: '-' },
  });

describe('one file and one line', () => {
  test.each([
    ['upside-down', '8-bit upside down'],
    ['striped-adpcm', 'striped ADPCM'],
  ])('the encoding %s and the container are offered, named, written, read and checked', async (encoding, title) => {
    const sheet = core.readSheet(sheetText(encoding), 'sheet.json');
    expect(core.outContainers().some(({ id }) => id === 'tape')).toBe(true);
    expect(core.encodingTitle(encoding)).toBe(title);
    const { file, facts, findings } = await makeFrom(sound, core.automaticSettings('x'), sheet);
    expect(facts).toMatchObject({ container: 'tape', encoding, sampleRate: 8000, channels: 1 });
    const { pcm } = core.openSoundFile(core.readPlain(file), file.size);
    const power = sound.channels[0].reduce((sum, value, i) => sum + (value - pcm.channels[0][i]) ** 2, 0) / 8001;
    expect(Math.sqrt(power)).toBeLessThan(0.03);
    expect(
      core
        .describeFacts(facts, 'x.tape')
        .map(({ value }) => value)
        .join(' '),
    ).toContain(title);
    expect(findings.find(({ requirement }) => requirement === 'encoding')?.verdict).toBe('meets');
    const wish = core.parseSettings({ name: 'x', wrap: { container: 'tape', encoding } }).wrap;
    expect(wish).toEqual({ container: 'tape', encoding });
  });

  test('the encoding is played in C, and not in a language that it has no line of', () => {
    const folder = mkdtempSync(join(tmpdir(), 'extending-'));
    const of = [{ encoding: 'upside-down', channels: 1, stem: 'all', frames: 256 }];
    const every = Uint8Array.from({ length: 256 }, (_, i) => i);
    const encoding = plainEncodingOf('upside-down');
    const packing = { encoding, sampleRate: 8000, channels: 1, frames: 256, stem: 'all' };
    writeFileSync(join(folder, 'all.h'), core.packFile(core.containerOf('c-header'), packing, every));
    writeFileSync(join(folder, 'sound_player.h'), cPlayer(recordFor(of, 'c-header', 'h')));
    writeFileSync(
      join(folder, 'main.c'),
      `#include <stdio.h>
#include "sound_player.h"
int main(void) {
  struct sound_cursor cursor;
  sound_start(&cursor, &sounds[0]);
  while (!sound_ended(&cursor)) printf("%d ", sound_next(&cursor));
}`,
    );
    execFileSync('cc', ['-std=c99', '-Wall', '-Wextra', '-Werror', '-o', join(folder, 'main'), join(folder, 'main.c')]);
    const played = execFileSync(join(folder, 'main'), { encoding: 'utf8' }).trim().split(' ').map(Number);
    rmSync(folder, { recursive: true });
    expect(played).toEqual([...every].map((byte) => 256 * (127 - byte)));
    expect(() => pythonPlayer(recordFor(of, 'python', 'py'))).toThrow('all.py: upside-down');
  });

  test('the requirement is read from a sheet, said and checked', async () => {
    const sheet = core.readSheet(sheetText('upside-down'), 'sheet.json');
    expect(core.requirementText(sheet.requirements[2])).toBe('even frames: an even number of frames');
    const odd = core.checkFile(sheet, { ...factsFor(sound), frames: 8001 }, 'x.tape')[2];
    expect(odd).toMatchObject({ verdict: 'breaks', found: '8001', mend: 'take one frame off' });
    expect(core.checkFile(sheet, { ...factsFor(sound), frames: 8000 }, 'x.tape')[2].verdict).toBe('meets');
  });

  test('the trait is read from a sheet, said, does what it does, and asks for what follows', async () => {
    const text = sheetText('upside-down').replace('"naming"', '"player":{"reads":"header","backwards":true},"naming"');
    const { player, requirements } = core.readSheet(text, 'sheet.json');
    expect(core.playerWords(player)).toContain('goes backwards');
    expect(followingFrom(player).requirements.map(({ kind }) => kind)).toEqual(['even-frames']);
    const some = { player, requirements: requirements.slice(0, 1) };
    expect(core.askedBy(some).map(({ kind }) => kind)).toContain('even-frames');
    expect(core.disagreements({ ...some, without: ['even-frames'] })).toHaveLength(1);
    const wav = core.wavFile(sound, 16);
    const card = ['a.wav', 'b.wav'].map((path) => ({ path, bytes: core.inMemory(wav) }));
    const { shown } = await core.insert(card, { player, lists: [], packs: [] });
    expect(shown.map(({ name }) => name)).toEqual(['b.wav', 'a.wav']);
  });

  test('the way out is tried and offered first', () => {
    const sheet = core.readSheet(
      sheetText('upside-down', [{ key: 'duration', kind: 'duration', most: 0.5 }]),
      'sheet.json',
    );
    const { obstacles } = core.settle({
      facts: factsFor(sound),
      settings: core.automaticSettings('x'),
      target: sheet,
    });
    expect(obstacles[0].ways[0]).toMatchObject({ label: 'Only a taste: fits with 0.400 s to spare', station: 'cut' });
  });

  test('the station before Rate is set, heard in the preview, compared, heard in a piece and told by another device', async () => {
    const stages = new Stages();
    const settings = (over: boolean) => core.parseSettings({ name: 'x', turn: { over }, rate: { sampleRate: 16_000 } });
    const target = core.readSheet(sheetText('upside-down'), 'sheet.json');
    const heard = async (over: boolean) => {
      const { file } = await makeFrom(sound, settings(over), target, { stages });
      return core.openSoundFile(core.readPlain(file), file.size).pcm.channels[0];
    };
    const [plain, over] = [await heard(false), await heard(true)];
    expect(plain.some((value) => value > 0.1)).toBe(true);
    expect(Math.max(...over.map((value, i) => Math.abs(value + plain[i])))).toBeLessThan(0.05);
    // The format is that of its own place: before Rate.
    expect(formats.length).toBeGreaterThan(0);
    for (const format of formats) expect(format).toEqual({ sampleRate: 8000, channels: 1 });
    const chain = core.settle({ facts: factsFor(sound), settings: settings(true), target });
    expect(core.pieceOf(chain, { start: 0, end: 4000 }).provisional).toContain('which way up');
    const turn = 'turn' as 'rate';
    expect(core.STATIONS_WITH_ALTERNATIVES).toContain(turn);
    expect(core.alternativesOf(chain, turn).map(({ label }) => label)).toEqual(['automatic', 'over']);
    const clip = core.withSettings(core.newClip('00000000-0000-4000-8000-000000000001', 'x', 's'), settings(true));
    const job = { format: 2 as const, ...core.EMPTY_JOB, title: 'x', sheet: target.id, variant: null, clips: [clip] };
    const { left } = core.forAnotherDevice(job, core.targetOf('archive-copy'), null, () => factsFor(sound));
    expect(left).toContainEqual({ clip: 'x', what: 'turn' });
  });

  test('the text form is written and read again, and offered with its extension', () => {
    const bytes = Uint8Array.of(0, 7, 255);
    const packing = { encoding: plainEncodingOf('pcm-u8'), sampleRate: 8000, channels: 1, frames: 3, stem: 'bell' };
    const file = core.packFile(core.containerOf('brackets'), packing, bytes);
    expect(new TextDecoder().decode(file)).toBe(
      '# 8-bit unsigned PCM (pcm-u8), 8000 Hz, mono, 3 frames.\nbell = [\n  0, 7, 255\n]\n',
    );
    expect([...core.wholeOf(core.readPlain(file).data)]).toEqual([...bytes]);
    expect(core.outContainerOf('brackets').extensions).toEqual(['brk']);
  });

  test('the fields of a kind of file are read', () => {
    const file = core.inMemory(new TextEncoder().encode('TAPE and more'));
    expect(core.byteFieldsOf(file, false)[0]).toMatchObject({ start: 0, end: 4, name: 'a tape' });
  });

  test('the note is offered for a delivery, and made of its record', () => {
    const record = recordFor([], 'wav', 'wav');
    expect(core.noteFiles(record, ['postcard'])).toEqual([
      { path: 'postcard.txt', text: 'Greetings from Panel */ of the cabin.' },
    ]);
  });

  test('the cause is asked, and said first where it is the surest', async () => {
    const device = core.targetOf('portable-player');
    const card = [{ path: 'a.wav', bytes: core.inMemory(core.wavFile(sound, 16)) }];
    const situation = { device, card, path: 'a.wav', isWhole: true };
    const { causes } = await core.explain('dull', { ...situation, openForeign: noForeign });
    expect(causes[0]).toMatchObject({ cause: { id: 'gremlin' }, seen: 'One gremlin.' });
  });

  test('the face is read from a sheet', () => {
    const text = sheetText('upside-down').replace('"naming"', '"face":{"id":"crank","options":{"turns":5}},"naming"');
    expect(core.readSheet(text, 'sheet.json').face).toEqual({ id: 'crank', options: { turns: 5 } });
  });

  test('the sheet ships, and is found by its id', () => {
    expect(core.targetOf('cuckoo-clock').name).toBe('Cuckoo clock');
    expect(() => core.targetOf('cuckoo-cloc')).toThrow('perhaps cuckoo-clock');
  });

  test('what is not in a list is not there', () => {
    const wrong = () => core.readSheet(sheetText('sideways'), 'sheet.json');
    expect(wrong).toThrow(core.InputError as typeof InputErrorClass);
    expect(wrong).toThrow('there is no such encoding; there are pcm-u8,');
    expect(wrong).toThrow('upside-down');
  });
});
