import { describe, expect, test } from 'vitest';
import type { Pcm } from '../audio/index.ts';
import { factsFor } from '../chain/fixtures/sources.ts';
import { automaticSettings, settle } from '../chain/index.ts';
import type { Facts } from '../facts/index.ts';
import { checkFile } from '../findings/index.ts';
import { EMPTY_SHEET, type Requirement, sheetForClip, type Target } from '../targets/index.ts';
import { makeFrom } from './fixtures/make.ts';
import { plannedFiles } from './index.ts';

const RATE = 8000;
const WAV: readonly Requirement[] = [
  { key: 'c', kind: 'container', anyOf: ['wav'] },
  { key: 'e', kind: 'encoding', anyOf: ['pcm-s16le'] },
  { key: 'r', kind: 'sample-rate', anyOf: [RATE] },
];
const BARE: readonly Requirement[] = [{ key: 'c', kind: 'container', anyOf: ['headerless'] }, ...WAV.slice(1)];

const sheetOf = (requirements: readonly Requirement[], more: Partial<Target> = {}): Target => ({
  ...EMPTY_SHEET,
  id: 'x',
  name: 'X',
  about: '',
  naming: { separator: '-' },
  requirements: [...requirements],
  ...more,
});

/** A tone of so many seconds at an amplitude, with silence around it. */
function toneOf(seconds: number, amplitude: number, { front = 0, back = 0, channels = 1 } = {}): Pcm {
  const [before, sound, behind] = [front, seconds, back].map((length) => Math.round(length * RATE));
  const samples = new Float32Array(before + sound + behind);
  // Begins and ends at its highest, so that no silence belongs to it.
  for (let i = 0; i < sound; i++) samples[before + i] = amplitude * Math.cos((2 * Math.PI * 500 * i) / RATE);
  return { sampleRate: RATE, channels: Array.from({ length: channels }, () => samples.slice()) };
}

const dB = (value: number) => 20 * Math.log10(value);

describe('what stations make of what a sheet asks', () => {
  test.each<[string, readonly Requirement[], Pcm, (facts: Facts) => unknown, unknown]>([
    [
      'no silence at the start, half a second at most at the end',
      [...WAV, { key: 'x', kind: 'silence', mostFront: 0, mostBack: 0.5 }],
      toneOf(1, 0.5, { front: 0.7, back: 2 }),
      ({ frames }) => frames,
      1.5 * RATE,
    ],
    [
      'silence at the start is left alone where only the end is limited',
      [...WAV, { key: 'x', kind: 'silence', mostBack: 0 }],
      toneOf(1, 0.5, { front: 0.25, back: 2 }),
      ({ frames }) => frames,
      1.25 * RATE,
    ],
    [
      'half a second of silence at the start, and no more',
      [...WAV, { key: 'x', kind: 'silence', front: 0.5, mostFront: 0.5 }],
      toneOf(1, 0.5, { front: 2 }),
      ({ measures }) => measures.leadingSilence,
      0.5 * RATE,
    ],
    [
      'a peak not above: a loud sound is turned down',
      [...WAV, { key: 'x', kind: 'peak', most: -12 }],
      toneOf(1, 0.9),
      ({ levels }) => Math.round(dB(levels.peak[0])),
      -12,
    ],
    [
      'a peak not above: a soft one stays as it is',
      [...WAV, { key: 'x', kind: 'peak', most: -12 }],
      toneOf(1, 0.01),
      ({ levels }) => Math.round(dB(levels.peak[0])),
      -40,
    ],
    [
      'a true peak',
      [...WAV, { key: 'x', kind: 'peak', goal: -6, isTrue: true }],
      toneOf(1, 0.01),
      ({ measures }) => Math.round(10 * dB(measures.truePeak)) / 10,
      -6,
    ],
    [
      'a size of whole sectors, bare',
      [...BARE, { key: 'x', kind: 'file-size', multipleOf: 512 }],
      toneOf(1, 0.5),
      ({ bytes }) => bytes,
      Math.floor((2 * RATE) / 512) * 512,
    ],
    [
      'a least size, bare',
      [...BARE, { key: 'x', kind: 'file-size', least: 20_001, multipleOf: 1000 }],
      toneOf(1, 0.5),
      ({ bytes }) => bytes,
      21_000,
    ],
    [
      'a least size, with a header',
      [...WAV, { key: 'x', kind: 'file-size', least: 30_000 }],
      toneOf(1, 0.5),
      ({ bytes }) => bytes,
      30_000,
    ],
    [
      'a depth within a range',
      [
        { key: 'c', kind: 'container', anyOf: ['wav'] },
        { key: 'x', kind: 'bit-depth', least: 20, most: 24 },
      ],
      toneOf(1, 0.5),
      ({ bitDepth }) => bitDepth,
      24,
    ],
  ])('%s', async (_, requirements, pcm, of, wanted) => {
    const { facts, findings } = await makeFrom(pcm, automaticSettings('x'), sheetOf(requirements));
    expect(findings.filter(({ verdict }) => verdict !== 'meets')).toEqual([]);
    expect(of(facts)).toBe(wanted);
  });

  test.each([
    [1, 0],
    [2, 1],
  ])('6 s of mono and 3 s of stereo: five seconds of %i channels have %i obstacles', async (channels, count) => {
    const sheet = sheetOf([...WAV, { key: 'x', kind: 'duration', most: 6, mostOfStereo: 3 }]);
    const facts = factsFor(toneOf(5, 0.5, { channels }));
    const chain = settle({ facts, settings: automaticSettings('x'), target: sheet, stem: 'x' });
    expect(chain.obstacles.map(({ text }) => text)).toEqual(
      Array(count).fill('It is 2.000 s too long: the sheet allows 3.000 s, 24\u202f000 frames.'),
    );
  });
});

test('the sound of a place is as long as that place allows; of several the tightest counts, and of others none', () => {
  const sheet = sheetOf([...WAV, { key: 'x', kind: 'place-duration', most: [4, 2.5] }], {
    places: { words: ['button'], first: 1, labels: {} },
  });
  const allowed = (slots: readonly number[]) => {
    const target = sheetForClip(sheet, {}, slots);
    const chain = settle({ facts: factsFor(toneOf(5, 0.5)), settings: automaticSettings('x'), target, stem: 'x' });
    return chain.obstacles.map(({ text }) => /allows ([\d.]+) s/.exec(text)?.[1]);
  };
  expect([[1], [2], [1, 2], [3], []].map(allowed)).toEqual([['4.000'], ['2.500'], ['2.500'], [], []]);
  // A file alone does not say where it plays.
  const verdicts = [2, 3].map((seconds) =>
    checkFile(sheet, factsFor(toneOf(seconds, 0.5)), 'x.wav').flatMap(({ key, verdict }) =>
      key === 'x' ? [verdict] : [],
    ),
  );
  expect(verdicts).toEqual([['meets'], ['unknown']]);
});

describe('names', () => {
  const clips = ['Gate buzzer 2', 'Upper-station', 'Winch'].map((name, i) => ({ id: String(i), name }));
  const stems = (rule: object, places?: Target['places']) =>
    plannedFiles(clips, {}, sheetOf([{ key: 'n', kind: 'name', ...rule }], places ? { places } : {})).map(
      ({ stem }) => stem,
    );
  test('of letters and digits alone', () =>
    expect(stems({ alphanumeric: true })).toEqual(['gatebuzzer2', 'upperstation', 'winch']));
  test('that are exactly given, by their places', () =>
    expect(stems({ anyOf: ['SOUND.WAV', 'alarm.wav'] })).toEqual(['SOUND', 'alarm', '2']));
  test('that are numbers, from the first place on', () =>
    expect(stems({ digits: 4, from: 1, to: 255 }, { words: ['number'], first: 1, labels: {} })).toEqual([
      '0001',
      '0002',
      '0003',
    ]));
});
