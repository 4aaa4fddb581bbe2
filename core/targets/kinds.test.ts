import * as v from 'valibot';
import { describe, expect, test } from 'vitest';
import { factsFor, sources } from '../chain/fixtures/sources.ts';
import { checkFile, checkSet } from '../findings/index.ts';
import { formFields } from '../forms/index.ts';
import {
  askedBy,
  kindOf,
  newRequirement,
  type Requirement,
  requirementKinds,
  requirementSchema,
  requirementText,
  type SetSubject,
  targets,
  withVariant,
} from './index.ts';

type Facts = ReturnType<typeof factsFor>;
const facts: Facts = { ...factsFor(sources.quiet), sampleRate: 44_100 };
const measured = (change: Partial<Facts['measures']>) => ({ measures: { ...facts.measures, ...change } });

describe.each(requirementKinds)('the kind $kind', (kind) => {
  const usual = newRequirement(kind, kind.kind);
  test('starts as something whole, and its form asks for entries that it has', () => {
    expect(v.parse(requirementSchema, usual)).toEqual(usual);
    expect(kindOf(usual)).toBe(kind);
    expect(requirementText(usual)).toBe(`${kind.title}: ${kind.wanted(usual)}`);
    expect(kind.wanted(usual)).not.toBe('');
    for (const field of formFields(kind.schema)) {
      // A text where it does not belong is refused under the name of the field, so the schema knows it.
      const wrong = { ...usual, [field.key]: { odd: true } };
      const result = v.safeParse(requirementSchema, wrong);
      expect(result.success).toBe(false);
      expect(result.issues?.some((issue) => issue.path?.[0]?.key === field.key)).toBe(true);
      if (field.type === 'choice' || field.type === 'choices') expect(field.options?.().length).toBeGreaterThan(1);
    }
  });

  test('knows no entry beside its own', () => {
    expect(v.safeParse(requirementSchema, { ...usual, colour: 'red' }).success).toBe(false);
  });
});

test('every kind is used by a sheet, or is there for the sheets of users', () => {
  const used = new Set(
    targets.flatMap((target) =>
      [null, ...target.variants.map(({ id }) => id)].flatMap((id) =>
        askedBy(withVariant(target, id)).map(({ kind }) => kind),
      ),
    ),
  );
  const forUsers = requirementKinds.map(({ kind }) => kind).filter((kind) => !used.has(kind));
  expect(forUsers.toSorted()).toEqual([
    'bit-depth',
    'byte-layout',
    'list-file',
    'loudness',
    'place-duration',
    'set-duration',
  ]);
});

describe('checked against a file', () => {
  test.each<[Requirement, Partial<Facts>, string, string]>([
    [{ key: 'sample-rate', kind: 'sample-rate', least: 8000, most: 32_000 }, { sampleRate: 22_050 }, 'meets', ''],
    [
      { key: 'sample-rate', kind: 'sample-rate', most: 32_000 },
      { sampleRate: 44_100 },
      'breaks',
      'resample it to 32\u202f000 Hz',
    ],
    [
      { key: 'sample-rate', kind: 'sample-rate', least: 8000 },
      { sampleRate: 6000 },
      'breaks',
      'resample it to 8\u202f000 Hz',
    ],
    // 16 MHz / 1 020 are 15 686.27 Hz; a header says 15 686.
    [{ key: 'sample-rate', kind: 'sample-rate', anyOf: ['16000000/1020'] }, { sampleRate: 15_686 }, 'meets', ''],
    [
      { key: 'sample-rate', kind: 'sample-rate', anyOf: [8000] },
      { sampleRate: 8000, certainty: 'assumed' },
      'unknown',
      '',
    ],
    [{ key: 'bit-depth', kind: 'bit-depth', anyOf: [16, 24] }, { bitDepth: 24 }, 'meets', ''],
    [{ key: 'bit-depth', kind: 'bit-depth', least: 16, most: 24 }, { bitDepth: 20 }, 'meets', ''],
    [
      { key: 'bit-depth', kind: 'bit-depth', least: 16, most: 24 },
      { bitDepth: 32 },
      'breaks',
      'write it with 16 to 24 bit',
    ],
    [{ key: 'bit-depth', kind: 'bit-depth', most: 16 }, { bitDepth: 24 }, 'breaks', 'write it with 16 bit or less'],
    // Any PCM has a depth.
    [
      { key: 'bit-depth', kind: 'bit-depth', least: 1 },
      { bitDepth: null },
      'breaks',
      'write it as PCM of 1 bit or more',
    ],
    [{ key: 'bit-depth', kind: 'bit-depth', least: 1 }, { bitDepth: 5 }, 'meets', ''],
    [{ key: 'd', kind: 'duration', most: 360, mostOfStereo: 180 }, { channels: 1, frames: 44_100 * 300 }, 'meets', ''],
    [
      { key: 'd', kind: 'duration', most: 360, mostOfStereo: 180 },
      { channels: 2, frames: 44_100 * 300 },
      'breaks',
      'cut 2:00.000',
    ],
    [{ key: 's', kind: 'file-size', least: 1000, multipleOf: 512 }, { bytes: 1024 }, 'meets', ''],
    [{ key: 's', kind: 'file-size', least: 1000 }, { bytes: 900 }, 'breaks', 'add 100 bytes: silence at its end'],
    [
      { key: 's', kind: 'file-size', multipleOf: 512 },
      { bytes: 1030 },
      'breaks',
      'make it 6 bytes shorter or 506 longer at Ends',
    ],
    [{ key: 'p', kind: 'peak', most: -3 }, { levels: { ...facts.levels, peak: [0.5] } }, 'meets', ''],
    [
      { key: 'p', kind: 'peak', most: -9 },
      { levels: { ...facts.levels, peak: [0.5, 0.1] } },
      'breaks',
      'lower the level by 3.0 dB',
    ],
    [
      { key: 'p', kind: 'peak', most: -9, isTrue: true },
      { levels: { ...facts.levels, peak: [0.1] }, ...measured({ truePeak: 0.5 }) },
      'breaks',
      'lower the level by 3.0 dB',
    ],
    [{ key: 'p', kind: 'peak', goal: -6, isTrue: true }, measured({ truePeak: 0.5 }), 'meets', ''],
    [
      { key: 'q', kind: 'silence', mostFront: 0, mostBack: 1 },
      measured({ leadingSilence: 0, trailingSilence: 44_100 }),
      'meets',
      '',
    ],
    [
      { key: 'q', kind: 'silence', mostFront: 0, mostBack: 1 },
      measured({ leadingSilence: 4410, trailingSilence: 88_200 }),
      'breaks',
      'take silence off: 0.100 s at the start and 1.000 s at the end',
    ],
    [
      { key: 'r', kind: 'bit-rate', least: 128_000, variable: true },
      { bitRate: 130_000, bitRateMode: 'variable' },
      'meets',
      '',
    ],
    [
      { key: 'r', kind: 'bit-rate', least: 128_000, variable: true },
      { bitRate: 320_000, bitRateMode: 'constant' },
      'breaks',
      'encode it at 320 kbit/s, variable',
    ],
    [{ key: 't', kind: 'tags', rule: 'allowed', most: 100 }, { extras: [{ name: 'id3 ', bytes: 90 }] }, 'meets', ''],
    [
      { key: 't', kind: 'tags', rule: 'allowed', most: 100 },
      {
        extras: [
          { name: 'id3 ', bytes: 90 },
          { name: 'LIST', bytes: 40 },
        ],
      },
      'breaks',
      'save 30 bytes: shorten them, or leave some out',
    ],
    [
      { key: 't', kind: 'tags', rule: 'allowed', forbidden: ['smpl'] },
      { extras: [{ name: 'smpl', bytes: 36 }] },
      'breaks',
      'write it again without smpl',
    ],
    [{ key: 'bit-depth', kind: 'bit-depth', anyOf: [16] }, { bitDepth: 8 }, 'breaks', 'write it with 16 bit'],
    [{ key: 'bit-depth', kind: 'bit-depth', anyOf: [16] }, { bitDepth: null }, 'breaks', 'write it as PCM of 16 bit'],
    [
      { key: 'byte-layout', kind: 'byte-layout', order: 'big' },
      { encoding: 'pcm-s16le' },
      'breaks',
      'write the samples big-endian',
    ],
    [{ key: 'byte-layout', kind: 'byte-layout', order: 'big' }, { encoding: 'pcm-s8' }, 'meets', ''],
    [{ key: 'byte-layout', kind: 'byte-layout', sign: 'unsigned' }, { encoding: 'pcm-u8' }, 'meets', ''],
    [{ key: 'byte-layout', kind: 'byte-layout', packing: 'packed' }, { encoding: 'pcm-u5-packed' }, 'meets', ''],
    [
      { key: 'byte-layout', kind: 'byte-layout', packing: 'packed' },
      { encoding: 'pcm-u5' },
      'breaks',
      'write the samples packed',
    ],
    [
      { key: 'bit-rate', kind: 'bit-rate', anyOf: [320_000], constant: true },
      { bitRate: 320_000, bitRateMode: 'constant' },
      'meets',
      '',
    ],
    [
      { key: 'bit-rate', kind: 'bit-rate', anyOf: [320_000], constant: true },
      { bitRate: 319_800, bitRateMode: 'variable' },
      'breaks',
      'encode it at 320 kbit/s, constant',
    ],
    [{ key: 'bit-rate', kind: 'bit-rate', least: 128_000 }, { bitRate: 123_000, bitRateMode: 'variable' }, 'meets', ''],
    [
      { key: 'bit-rate', kind: 'bit-rate', least: 128_000, advised: true },
      { bitRate: 40_000, bitRateMode: 'variable' },
      'advises',
      'encode it at 128 kbit/s; silence and simple sounds still take less',
    ],
    [
      { key: 'bit-rate', kind: 'bit-rate', most: 64_000 },
      { bitRate: 128_000, bitRateMode: 'constant' },
      'breaks',
      'encode it at 64 kbit/s',
    ],
    [{ key: 'stereo-mode', kind: 'stereo-mode', mode: 'joint' }, { channels: 2, jointStereo: true }, 'meets', ''],
    [
      { key: 'stereo-mode', kind: 'stereo-mode', mode: 'joint' },
      { channels: 2, jointStereo: false },
      'breaks',
      'encode it as joint stereo',
    ],
    [
      { key: 'stereo-mode', kind: 'stereo-mode', mode: 'joint' },
      { channels: 1 },
      'breaks',
      'make it stereo, coded as joint stereo',
    ],
    [{ key: 'stereo-mode', kind: 'stereo-mode', mode: 'stereo' }, { channels: 2, jointStereo: null }, 'unknown', ''],
    [{ key: 'silence', kind: 'silence', front: 2 }, measured({ leadingSilence: 88_200 }), 'meets', ''],
    [
      { key: 'silence', kind: 'silence', front: 2 },
      measured({ leadingSilence: 44_100 }),
      'breaks',
      'add silence: 1.000 s at the start',
    ],
    // A compressed sound swells a little before it sounds.
    [
      { key: 'silence', kind: 'silence', front: 2 },
      { bitDepth: null, ...measured({ leadingSilence: 87_500 }) },
      'meets',
      '',
    ],
    [
      { key: 'silence', kind: 'silence', front: 1, back: 1 },
      measured({ leadingSilence: 0, trailingSilence: 0 }),
      'breaks',
      'add silence: 1.000 s at the start and 1.000 s at the end',
    ],
    [{ key: 'loudness', kind: 'loudness', goal: -16 }, measured({ loudness: -15.2 }), 'meets', ''],
    [
      { key: 'loudness', kind: 'loudness', goal: -16 },
      measured({ loudness: -23 }),
      'breaks',
      'change the level by +7.0 dB',
    ],
    [{ key: 'loudness', kind: 'loudness', goal: -16 }, measured({ loudness: null }), 'unknown', ''],
    [
      { key: 'dc-offset', kind: 'dc-offset', most: -40 },
      { levels: { ...facts.levels, dcOffset: [0.009] } },
      'meets',
      '',
    ],
    [
      { key: 'dc-offset', kind: 'dc-offset', most: -40 },
      { levels: { ...facts.levels, dcOffset: [0, -0.02] } },
      'breaks',
      'remove the DC offset at Level',
    ],
    [
      { key: 'tags', kind: 'tags', rule: 'forbidden' },
      { extras: [{ name: 'LIST', bytes: 8 }] },
      'breaks',
      'write it again without them',
    ],
    [
      { key: 'tags', kind: 'tags', rule: 'forbidden', allowed: ['LIST'] },
      { extras: [{ name: 'LIST', bytes: 8 }] },
      'meets',
      '',
    ],
    [{ key: 'tags', kind: 'tags', rule: 'allowed', required: ['smpl'] }, { extras: [] }, 'breaks', 'add smpl'],
    [
      { key: 'tags', kind: 'tags', rule: 'allowed', required: ['smpl'] },
      { extras: [{ name: 'smpl', bytes: 36 }] },
      'meets',
      '',
    ],
    [{ key: 'tags', kind: 'tags', rule: 'kept' }, {}, 'unknown', ''],
    [{ key: 'folder', kind: 'folder', path: 'sounds/en' }, {}, 'unknown', ''],
  ])('%j and %j: %s', (requirement, change, verdict, mend) => {
    const [finding] = checkFile({ requirements: [requirement] }, { ...facts, ...change }, 'bell.wav');
    expect([finding.verdict, finding.mend]).toEqual([verdict, mend]);
  });

  test.each([
    ['0042.wav', { digits: 4 }, 'meets', ''],
    ['042.wav', { digits: 4 }, 'breaks', 'name it after its slot, in 4 digits'],
    ['bell.wav', { digits: 4 }, 'breaks', 'name it after its slot, in 4 digits'],
    ['Bell.wav', { letterCase: 'lower' as const }, 'breaks', 'write it in lower case'],
    ['BELL.wav', { letterCase: 'upper' as const }, 'meets', ''],
    ['System.wav', { reserved: ['system'] }, 'breaks', 'choose another: the device reserves this one'],
  ])('name %s under %j: %s', (fileName, rule, verdict, mend) => {
    const [finding] = checkFile({ requirements: [{ key: 'name', kind: 'name', ...rule }] }, facts, fileName);
    expect([finding.verdict, finding.mend]).toEqual([verdict, mend]);
  });

  test('what only the maker knows: the folder, and the tags of the source', () => {
    const sheet = {
      requirements: [
        { key: 'tags', kind: 'tags' as const, rule: 'kept' as const },
        { key: 'folder', kind: 'folder' as const, path: 'sounds/en' },
      ],
    };
    const sourceTags = [
      { name: 'title', value: 'Bell' },
      { name: 'encodedBy', value: 'somebody' },
    ];
    const verdicts = (tags: Facts['tags'], folder: string) =>
      checkFile(sheet, { ...facts, tags }, 'bell.wav', { folder, sourceTags }).map(({ verdict, mend }) => [
        verdict,
        mend,
      ]);
    expect(verdicts([{ name: 'title', value: 'Bell' }], 'Sounds/EN')).toEqual([
      ['meets', ''],
      ['meets', ''],
    ]);
    expect(verdicts([], '')).toEqual([
      ['breaks', 'write title again'],
      ['breaks', 'put it into sounds/en'],
    ]);
  });
});

describe('checked against a set', () => {
  const members = [1, 2, 3].map((bytes) => ({ bytes, soundBytes: bytes, frames: bytes, sampleRate: 2 }));
  test.each<[Requirement, SetSubject, string, string]>([
    [{ key: 'file-count', kind: 'file-count', most: 3 }, { members }, 'meets', ''],
    [{ key: 'file-count', kind: 'file-count', most: 2 }, { members }, 'breaks', 'remove 1 file'],
    [{ key: 'file-count', kind: 'file-count', least: 5 }, { members }, 'breaks', 'add 2 files'],
    [{ key: 'set-duration', kind: 'set-duration', most: 3 }, { members }, 'meets', ''],
    [
      { key: 'set-duration', kind: 'set-duration', most: 2.5 },
      { members },
      'breaks',
      'cut 0.500 s off its sounds, or remove some',
    ],
    [{ key: 'list-file', kind: 'list-file', name: 'list.txt' }, { members, others: ['list.txt'] }, 'meets', ''],
    [
      { key: 'list-file', kind: 'list-file', name: 'list.txt' },
      { members, others: [] },
      'breaks',
      'build the set with Tambur, which writes list.txt',
    ],
    [{ key: 'list-file', kind: 'list-file', name: 'list.txt' }, { members }, 'unknown', ''],
    [{ key: 'nothing-else', kind: 'nothing-else' }, { members, others: [] }, 'meets', ''],
    [
      { key: 'nothing-else', kind: 'nothing-else' },
      { members, others: ['.hidden'] },
      'breaks',
      'remove them, hidden ones too',
    ],
    [{ key: 'nothing-else', kind: 'nothing-else', but: ['list.txt'] }, { members, others: ['list.txt'] }, 'meets', ''],
    [{ key: 'nothing-else', kind: 'nothing-else' }, { members }, 'unknown', ''],
  ])('%j: %j: %s', (requirement, set, verdict, mend) => {
    const [finding] = checkSet({ requirements: [requirement] }, set);
    expect([finding.verdict, finding.mend]).toEqual([verdict, mend]);
  });
});

describe('what is too large is mended by what the sheet allows', () => {
  const shorter = 'save 9 bytes: cut it shorter';
  const rate = (anyOf: number[]): Requirement => ({ key: 'rate', kind: 'sample-rate', anyOf });
  test.each<[string, readonly Requirement[], string]>([
    ['any rate', [], `${shorter} or lower its rate`],
    ['its own rate', [rate([8000])], shorter],
    ['a lower one too', [rate([8000, 4000])], `${shorter} or lower its rate`],
    ['only higher ones beside it', [rate([8000, 16_000])], shorter],
    ['a range', [{ key: 'rate', kind: 'sample-rate', least: 4000, most: 8000 }], `${shorter} or lower its rate`],
  ])('%s', (_, rates, mend) => {
    const size: Requirement = { key: 'size', kind: 'file-size', most: 1 };
    const large = { ...facts, bytes: 10, soundBytes: 10, sampleRate: 8000 };
    expect(checkFile({ requirements: [...rates, size] }, large, 'a.wav').at(-1)?.mend).toBe(mend);
  });

  test.each([
    [[8000], ''],
    [[8000, 4000], ' or lower their rate'],
  ])('a set at %j Hz', (rates, more) => {
    const requirements: Requirement[] = [rate(rates), { key: 'all', kind: 'set-size', most: 1 }];
    const [finding] = checkSet(
      { requirements },
      { members: [{ bytes: 10, soundBytes: 10, frames: 10, sampleRate: 8000 }] },
    );
    expect(finding?.mend).toBe(`save 9 bytes: cut clips shorter${more}`);
  });
});
