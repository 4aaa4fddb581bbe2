import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { describe, expect, test } from 'vitest';
import { inMemory } from '../bytes/index.ts';
import { containerOf, packFile } from '../containers/index.ts';
import { encodingOf } from '../encodings/index.ts';
import { type ListFile, USUAL_LIST } from '../lists/index.ts';
import { allTraits, type Card, type Circumstances, insert, noForeign, type Player, stepsAt } from './index.ts';

/** Another device, which shares no code with ours. */
const PYTHON = fileURLToPath(new URL('./fixtures/device.py', import.meta.url));

interface Played {
  readonly rate: number;
  readonly sound: readonly (readonly number[])[];
  readonly heard: readonly (readonly number[])[];
}

interface Answer {
  readonly shown: readonly (readonly [string, string])[];
  readonly refused: readonly (readonly [string, string])[];
  readonly played: Readonly<Record<string, Played>>;
}

/** What else matters beside the card. */
interface More {
  readonly list?: ListFile;
  readonly before?: Card;
  readonly now?: Partial<Circumstances>;
}

const inBase64 = (card: Card) =>
  card.map(({ path, bytes }) => [path, Buffer.from(bytes.read(0, bytes.size)).toString('base64')]);

function inPython(card: Card, player: Player, { list, before = [], now = {} }: More): Answer {
  const input = JSON.stringify({ card: inBase64(card), before: inBase64(before), player, list: list ?? null, now });
  return JSON.parse(execFileSync('python3', [PYTHON], { input, encoding: 'utf8', maxBuffer: 1 << 28 }));
}

async function gathered(blocks: AsyncIterable<readonly Float32Array[]> | Iterable<readonly Float32Array[]>) {
  const channels: number[][] = [];
  for await (const block of blocks) {
    for (const [i, samples] of block.entries()) channels[i] = [...(channels[i] ?? []), ...samples];
  }
  return channels;
}

async function inOurs(card: Card, player: Player, { list, before = [], now = {} }: More): Promise<Answer> {
  const device = await insert(card, { player, lists: list ? [list] : [], packs: [] }, noForeign, before);
  const played: Record<string, Played> = {};
  for (const { file } of device.shown) {
    const playing = await device.play(file.path, now);
    const sound = await gathered(playing.blocks());
    played[file.path] = { rate: playing.sampleRate, sound, heard: await gathered(playing.heard()) };
  }
  return {
    shown: device.shown.map(({ file, name }) => [file.path, name]),
    refused: device.refused.map(({ path, word }) => [path, word]),
    played,
  };
}

/** A sound that is nowhere the same: a sweep that swells. */
const samplesOf = (count: number, seed: number) =>
  Int32Array.from({ length: count }, (_, i) => Math.round(30_000 * (i / count) * Math.sin((i * i) / (900 + seed))));

const wav = (frames: number, channels = 1, tags: readonly { name: string; value: string }[] = []) => {
  const encoding = encodingOf('pcm-s16le');
  if (encoding.kind !== 'integer') throw new Error('not whole numbers');
  const packing = { encoding, sampleRate: 11_025, channels, frames, stem: 'x', tags };
  return packFile(containerOf('wav'), packing, encoding.encode(samplesOf(frames * channels, frames)));
};

/** A chunk that nobody knows, before the sound. */
function withChunk(file: Uint8Array): Uint8Array {
  const bytes = new Uint8Array(file.length + 12);
  bytes.set(file.subarray(0, 36));
  bytes.set([...'junk'].map((char) => char.charCodeAt(0)).concat([4, 0, 0, 0, 9, 8, 7, 6]), 36);
  bytes.set(file.subarray(36), 48);
  new DataView(bytes.buffer).setUint32(4, bytes.length - 8, true);
  return bytes;
}

const raw = (count: number, seed: number) => Uint8Array.from({ length: count }, (_, i) => (i * i * seed + 7 * i) % 256);
const cHeader = (count: number) => {
  const encoding = encodingOf('pcm-u8');
  const packing = { encoding, sampleRate: 16_000, channels: 1, frames: count, stem: 'bell' };
  return packFile(containerOf('c-header'), packing, raw(count, 3));
};

const cardOf = (files: Readonly<Record<string, Uint8Array | string>>): Card =>
  Object.entries(files).map(([path, content]) => ({
    path,
    bytes: inMemory(typeof content === 'string' ? new TextEncoder().encode(content) : content),
  }));

const sounds = cardOf({ 'b.wav': wav(1000), 'A.wav': wav(700, 2), 'noise.bin': raw(301, 5), 'c.wav': wav(5) });
const bare = cardOf({ 'bell.raw': raw(1000, 3), 'winch.raw': raw(555, 7), 'header.raw': wav(120) });
const tagged = cardOf({
  'plain.wav': wav(300),
  'tagged.wav': wav(300, 1, [{ name: 'title', value: 'Bell' }]),
  'junk.wav': withChunk(wav(300)),
});
const numbered = cardOf({ '0010.wav': wav(30), '2.wav': wav(40), 'bell.wav': wav(50), '0001 door.wav': wav(60) });
const listed = cardOf({
  'winch.raw': raw(90, 3),
  'tones.txt': 'Bell\tbell.raw\nGone\tgone.raw\nWinch\twinch.raw\n',
  'bell.raw': raw(80, 5),
  'unlisted.raw': raw(70, 5),
});
const list: ListFile = { ...USUAL_LIST, key: 'list', path: 'tones.txt' };

const older = cardOf({ 'tones.txt': 'Old bell\tbell.raw\n', 'bell.raw': raw(33, 11) });
const strange = cardOf({
  'bell.wav': wav(40),
  '.bell.wav': wav(20),
  'note.txt': 'what is what',
  'sounds/en/Doors.WAV': wav(50),
  'Sounds/EN/winch-1.wav': wav(60),
  'sounds/de/two words.wav': wav(70),
});

const packed = (id: string, frames: number) => {
  const encoding = encodingOf(id);
  const packing = { encoding, sampleRate: 8000, channels: 1, frames, stem: 'x' };
  return packFile(containerOf('wav'), packing, raw(frames * (id === 'pcm-s16le' ? 2 : 1), 5));
};
const kinds = cardOf({
  'wide.wav': packed('pcm-s16le', 300),
  'narrow.wav': packed('pcm-u8', 400),
  'american.wav': packed('mu-law', 500),
  'european.wav': packed('a-law', 600),
});

const u8 = { encoding: 'pcm-u8', sampleRate: 16_000, channels: 1 };
const mu = { encoding: 'mu-law', sampleRate: 8000, channels: 1 };
const wide = { encoding: 'pcm-s16le', sampleRate: 8000, channels: 2 };

const timer = { clock: 16_000_000, prescalers: [1, 8, 64], counterBits: 8 };

/** For each trait cards on which it makes a difference. */
const cases: Readonly<Record<string, readonly (readonly [Card, Player, More?])[]>> = {
  reads: [
    [sounds, { reads: 'header' }],
    [sounds, { reads: 'bare', assumes: u8 }],
    [cardOf({ 'bell.h': cHeader(400) }), { reads: 'bare', assumes: u8 }],
  ],
  assumes: [
    [bare, { reads: 'bare', assumes: u8 }],
    [bare, { reads: 'bare', assumes: mu }],
    [bare, { reads: 'bare', assumes: wide }],
  ],
  'extra-chunks': (['skips', 'refuses', 'plays'] as const).flatMap((value) => [
    [tagged, { reads: 'header', 'extra-chunks': value }],
    [bare, { reads: 'bare', assumes: mu, 'extra-chunks': value }],
  ]),
  'longest-name': [
    [sounds, { reads: 'bare', assumes: u8, 'longest-name': 5 }],
    [numbered, { reads: 'header', 'longest-name': 8 }],
  ],
  order: [
    [sounds, { reads: 'header', order: 'name' }],
    [sounds, { reads: 'header', order: 'card' }],
    [sounds, { reads: 'header', order: 'slot' }],
    [numbered, { reads: 'header', order: 'slot' }],
    [numbered, { reads: 'header', order: 'name' }],
    [listed, { reads: 'bare', assumes: mu, order: 'list' }, { list }],
    [listed, { reads: 'bare', assumes: mu, order: 'name' }, { list }],
  ],
  'plays-at': [
    [sounds, { reads: 'header', 'plays-at': 8000 }],
    [bare, { reads: 'bare', assumes: u8, 'plays-at': 32_000 }],
  ],
  timer: [
    // 16 MHz / (8 x 181) is the nearest to 11 025 Hz.
    [bare, { reads: 'bare', assumes: { encoding: 'pcm-u8', channels: 1 }, timer: { ...timer, wanted: 11_025 } }],
    [sounds, { reads: 'header', 'plays-at': 8000, timer: { ...timer, wanted: 16_000 } }],
  ],
  block: (['silence', 'previous', 'behind'] as const).flatMap((fill) => [
    [bare, { reads: 'bare', assumes: mu, block: { frames: 240, fill } }],
    [bare, { reads: 'bare', assumes: wide, block: { frames: 64, fill } }],
    [sounds, { reads: 'header', block: { frames: 128, fill } }],
  ]),
  compiles: [
    [
      cardOf({ 'bell.h': cHeader(40), 'bare.h': raw(50, 3) }),
      { reads: 'bare', assumes: u8, compiles: { anyOf: ['c-header'] } },
    ],
  ],
  finds: [
    [strange, { reads: 'header', finds: { extensions: ['wav'], others: 'ignores' } }],
    [strange, { reads: 'header', finds: { extensions: ['wav'], others: 'lists' } }],
    [strange, { reads: 'header', finds: { extensions: ['wav'], others: 'halts' } }],
    [sounds, { reads: 'header', finds: { extensions: ['wav', 'bin'], others: 'halts' } }],
  ],
  'looks-in': [[strange, { reads: 'header', 'looks-in': { path: 'sounds/en' } }]],
  names: [
    [strange, { reads: 'header', names: { plain: true } }],
    [numbered, { reads: 'header', names: { digits: 4 } }],
    [numbered, { reads: 'header', names: { plain: true, notDigitsOnly: true } }],
  ],
  'most-sounds': [[sounds, { reads: 'bare', assumes: u8, order: 'name', 'most-sounds': 2 }]],
  holds: [
    [bare, { reads: 'bare', assumes: mu, holds: { bytes: 1400 } }],
    [
      cardOf({ 'bell.h': cHeader(400), 'chime.h': cHeader(300) }),
      { reads: 'bare', assumes: u8, holds: { bytes: 450 } },
    ],
  ],
  'plays-containers': [[sounds, { reads: 'header', 'plays-containers': { anyOf: ['aiff'] } }]],
  'plays-encodings': [
    [kinds, { reads: 'header', 'plays-encodings': { anyOf: ['pcm-s16le'], others: 'refuses' } }],
    [kinds, { reads: 'header', 'plays-encodings': { anyOf: ['pcm-u8', 'mu-law'], others: 'as-if' } }],
    [kinds, { reads: 'header', 'plays-encodings': { anyOf: ['a-law'], others: 'as-if' } }],
    [kinds, { reads: 'header', 'plays-encodings': { anyOf: ['a-law'], others: 'silent' } }],
  ],
  'plays-channels': [
    [sounds, { reads: 'header', 'plays-channels': { anyOf: [1], others: 'refuses' } }],
    [sounds, { reads: 'header', 'plays-channels': { anyOf: [1], others: 'as-if' } }],
    [sounds, { reads: 'header', 'plays-channels': { anyOf: [2], others: 'as-if' } }],
    [
      sounds,
      {
        reads: 'header',
        'plays-channels': { anyOf: [2], others: 'silent' },
        'longest-sound': { frames: 600, beyond: 'cuts' },
      },
    ],
  ],
  'plays-rates': [
    [sounds, { reads: 'header', 'plays-rates': { anyOf: [8000, 16_000] } }],
    [sounds, { reads: 'header', 'plays-rates': { least: 8000, most: 11_025 } }],
    [sounds, { reads: 'header', 'plays-rates': { most: 11_024 } }],
    [kinds, { reads: 'header', 'plays-rates': { anyOf: [11_025], others: 'silent' } }],
  ],
  'longest-sound': [
    [sounds, { reads: 'header', 'longest-sound': { frames: 700, beyond: 'cuts' } }],
    [sounds, { reads: 'header', 'longest-sound': { seconds: 0.08, beyond: 'refuses' } }],
    [sounds, { reads: 'header', 'longest-sound': { bytes: 2000, beyond: 'cuts' } }],
    [sounds, { reads: 'header', 'longest-sound': { bytes: 2044, beyond: 'refuses' } }],
  ],
  'on-the-bar': [
    [sounds, { reads: 'header', 'on-the-bar': { anyOf: [1, 2], beats: 1, tempo: 400 } }],
    [kinds, { reads: 'header', 'on-the-bar': { anyOf: [1], beats: 2, tempo: 390 } }],
  ],
  keeps: [
    [listed, { reads: 'bare', assumes: mu, order: 'list', keeps: 'list' }, { list, before: older }],
    [listed, { reads: 'bare', assumes: mu, order: 'list', keeps: 'files' }, { list, before: older }],
  ],
  locks: [[sounds, { reads: 'header', locks: { seconds: 0.05 } }]],
  strikes: [
    [sounds, { reads: 'header', strikes: { velocity: 'follows', voices: 8 } }, { now: { velocity: 0.5 } }],
    [
      sounds,
      { reads: 'header', strikes: { velocity: 'fixed', voices: 8 } },
      { now: { velocity: 0.5, semitones: -12 } },
    ],
    [
      sounds,
      { reads: 'header', strikes: { velocity: 'fixed', voices: 8, canChange: ['pitch', 'length'] } },
      { now: { velocity: 0.25, byStrike: ['length', 'pitch'] } },
    ],
    [
      sounds,
      { reads: 'header', strikes: { velocity: 'follows', voices: 8, canChange: ['length'], muteGroups: 2 } },
      { now: { velocity: 0.5, byStrike: ['length', 'pitch'] } },
    ],
  ],
  'let-go': (['stops', 'plays-on'] as const).map((value) => [
    sounds,
    { reads: 'header', 'let-go': value },
    { now: { letGoAfter: 0.02 } },
  ]),
  priority: [
    [sounds, { reads: 'header', priority: 'calls' }, { now: { isBusy: true } }],
    [sounds, { reads: 'header', priority: 'sounds' }, { now: { isBusy: true } }],
  ],
  quiet: [
    [sounds, { reads: 'header', quiet: 'silent' }, { now: { isQuiet: true } }],
    [sounds, { reads: 'header', quiet: 'softer' }, { now: { isQuiet: true, semitones: 7 } }],
  ],
  speaker: [
    [sounds, { reads: 'header', speaker: { low: 300, high: 3400 } }],
    [bare, { reads: 'bare', assumes: mu, speaker: { low: 200, high: 12_000 } }],
  ],
};

/** Traits that are about compressed sound: the other device has no decoder. They are tried in `codecs/standin.test.ts`. */
const ELSEWHERE = ['plays-bit-rates'];

test('every trait is compared', () => {
  expect([...Object.keys(cases), ...ELSEWHERE].sort()).toEqual(allTraits.map(({ id }) => id).sort());
});

describe.each(Object.entries(cases))('the trait %s', (id, entries) => {
  test.each(
    entries.map((entry, i) => [i, ...entry] as const),
  )('card %i: %o as an independent device', async (_, card, player, more = {}) => {
    const [ours, theirs] = [await inOurs(card, player, more), inPython(card, player, more)];
    expect(ours.shown).toEqual(theirs.shown);
    expect(ours.refused).toEqual(theirs.refused);
    expect(Object.keys(ours.played)).toEqual(Object.keys(theirs.played));
    for (const [path, { rate, sound, heard }] of Object.entries(theirs.played)) {
      const own = ours.played[path];
      expect([own.rate, own.sound.length]).toEqual([rate, sound.length]);
      expect(own.sound.map(({ length }) => length)).toEqual(sound.map(({ length }) => length));
      // Samples are whole numbers over a power of two, the same in both; filters are calculated in another order.
      expect(own.sound).toEqual(sound);
      for (const [channel, values] of heard.entries()) {
        const worst = values.reduce((most, value, i) => Math.max(most, Math.abs(value - own.heard[channel][i])), 0);
        expect(worst).toBeLessThan(1e-5);
      }
    }
  });

  test('makes a difference on at least one of them', async () => {
    const answers = await Promise.all(
      entries.map(async ([card, player, more = {}]) => {
        const rest = Object.fromEntries(Object.entries(player).filter(([name]) => name !== id));
        const [with_, without] = [await inOurs(card, player, more), await inOurs(card, rest, more)];
        return JSON.stringify(with_) !== JSON.stringify(without);
      }),
    );
    expect(answers).toContain(true);
  });
});

test('what a person can try at a device is about what it does, and about what is heard or seen', () => {
  const player: Player = { keeps: 'list', locks: { seconds: 1 }, priority: 'calls', quiet: 'silent' };
  expect(stepsAt(player, 'old-sound')).toEqual([expect.stringMatching(/^Restart the device/)]);
  expect(stepsAt(player, 'silence')).toEqual([expect.stringMatching(/no call/), expect.stringMatching(/quiet mode/)]);
  expect(stepsAt({ ...player, priority: 'sounds' }, 'silence')).toHaveLength(1);
  expect(stepsAt(player, 'dull')).toEqual([]);
  expect(stepsAt({ speaker: { low: 300, high: 3400 } }, 'dull')).toEqual([expect.stringMatching(/loudspeaker/)]);
  expect(stepsAt({}, 'old-sound')).toEqual([]);
  const pads: Player = {
    'let-go': 'stops',
    strikes: { velocity: 'follows', voices: 8, canChange: ['pitch'], muteGroups: 2 },
  };
  expect(stepsAt(pads, 'stops-when-let-go')).toEqual([expect.stringMatching(/^Hold it down/)]);
  expect(stepsAt(pads, 'pitch-by-strike')).toEqual([expect.stringMatching(/strike does not change the pitch/)]);
  expect(stepsAt(pads, 'cut-off')).toHaveLength(2);
  expect(stepsAt({ 'let-go': 'plays-on' }, 'stops-when-let-go')).toEqual([]);
});

describe('a card in a device', () => {
  test('what cannot be read is refused in words, and what is not shown is not played', async () => {
    const card = cardOf({ 'empty.wav': '', 'half.wav': wav(50).subarray(0, 20), 'good.wav': wav(50) });
    const device = await insert(card, { player: { reads: 'header' }, lists: [], packs: [] });
    expect(device.shown.map(({ name }) => name)).toEqual(['good.wav']);
    expect(device.refused.map(({ path, word }) => [path, word])).toEqual([
      ['empty.wav', 'no sound'],
      ['half.wav', 'damaged'],
    ]);
    for (const { reason } of device.refused) expect(reason).toMatch(/\.$/);
    expect(device.log.map(({ path }) => path)).toEqual(['empty.wav', 'half.wav', 'good.wav']);
    await expect(device.play('empty.wav')).rejects.toThrow(/does not show empty\.wav/);
  });

  test('bare samples of a device of which nobody knows what it takes them for are not played', async () => {
    const device = await insert(bare, { player: { reads: 'bare' }, lists: [], packs: [] });
    expect(device.shown).toEqual([]);
    expect(device.refused.every(({ word }) => word === 'no sound')).toBe(true);
  });

  test('the sounds of a pack are found in it, one by one', async () => {
    const [a, b] = [cHeader(40), cHeader(60)];
    const text = ['/* All of them. */', ...[a, b].map((bytes) => new TextDecoder().decode(bytes)), 'int n = 2;\n'].join(
      '\n',
    );
    const pack = { key: 'p', path: 'all.h', form: 'source' as const, header: '', index: '', row: '', footer: '' };
    const device = await insert(cardOf({ 'all.h': text }), {
      player: { reads: 'bare', assumes: u8 },
      lists: [],
      packs: [pack],
    });
    expect(device.shown.map(({ name }) => name)).toEqual(['sound 1 of all.h', 'sound 2 of all.h']);
    const playing = await device.play('sound 2 of all.h');
    expect((await gathered(playing.blocks()))[0]).toEqual([...raw(60, 3)].map((byte) => (byte - 128) / 128));
  });
});
