import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { factsFor, sources } from '../chain/fixtures/sources.ts';
import { impliedBy, traitsOf } from '../standin/index.ts';
import { type kindOf, type Requirement, requirementKinds, type Subject, targets, withVariant } from './index.ts';

const facts = factsFor(sources.quiet);
const some = <T>(...values: T[]) => fc.subarray(values, { minLength: 1 });
const maybe = <T>(values: fc.Arbitrary<T>) => fc.option(values, { nil: undefined });
const range = (most: number) =>
  fc
    .record({ least: maybe(fc.integer({ min: 1, max: most })), most: maybe(fc.integer({ min: 1, max: most })) })
    .filter(({ least, most: end }) => (least ?? end) !== undefined && (least ?? 1) <= (end ?? most));
const choices = <T>(...values: T[]) => fc.record({ anyOf: some(...values) });
const EXTENSIONS = ['wav', 'WAV', 'raw', 'bin'];

/** For each kind that follows from traits: what it may ask, and what a file, or a set, may be. */
const CASES: Readonly<Record<string, readonly [fc.Arbitrary<object>, fc.Arbitrary<object>]>> = {
  container: [choices('wav', 'aiff', 'mp3'), fc.record({ container: fc.constantFrom('wav', 'aiff', 'mp3', 'flac') })],
  array: [choices('c-header', 'c-source'), fc.record({ array: fc.constantFrom('c-header', 'c-source', undefined) })],
  encoding: [choices('pcm-u8', 'mu-law', 'a-law'), fc.record({ encoding: fc.constantFrom('pcm-u8', 'mu-law', 'mp3') })],
  'sample-rate': [
    fc.oneof(range(40).map(times(100)), choices<number | string>(800, 1600, 2400, '16000/10')),
    fc.record({ sampleRate: fc.constantFrom(400, 800, 1600, 2400, 3000) }),
  ],
  'timer-rate': [
    fc.record({
      clock: fc.constantFrom(8_000_000, 16_000_000),
      prescalers: some(1, 8),
      counterBits: fc.constantFrom(8, 16),
      wanted: fc.constantFrom(8000, 16_000),
    }),
    fc.record({ sampleRate: fc.constantFrom(8000, 16_000) }),
  ],
  channels: [choices(1, 2, 4), fc.record({ channels: fc.constantFrom(1, 2, 3, 4) })],
  'bit-rate': [
    fc
      .tuple(
        fc.oneof(range(9).map(times(16_000)), choices(64_000, 128_000)),
        fc.constantFrom('constant', 'variable', ''),
      )
      .map(([rates, mode]) => ({ ...rates, ...(mode ? { [mode]: true } : {}) })),
    fc.oneof(
      fc.record({ bitRate: fc.constantFrom(32_000, 64_000, 128_000), bitRateMode: fc.constant('constant') }),
      fc.record({ bitRate: fc.constantFrom(20_000, 90_000), bitRateMode: fc.constant('variable') }),
    ),
  ],
  frames: [
    fc
      .tuple(fc.oneof(range(60), fc.constant({})), maybe(fc.integer({ min: 1, max: 12 })))
      .map(([ends, multipleOf]) => ({ ...ends, ...(multipleOf ? { multipleOf } : {}) })),
    fc.record({ frames: fc.integer({ min: 1, max: 150 }) }),
  ],
  duration: [
    fc
      .tuple(range(9), maybe(fc.integer({ min: 1, max: 9 })))
      .map(([ends, mostOfStereo]) => ({ ...ends, ...(mostOfStereo ? { mostOfStereo } : {}) })),
    fc.record({
      frames: fc.integer({ min: 0, max: 10 }),
      sampleRate: fc.constant(1),
      channels: fc.constantFrom(1, 2),
    }),
  ],
  bars: [
    fc.record({ anyOf: some(1, 2), beats: fc.constantFrom(3, 4), tempo: fc.constant(60) }),
    fc.record({ frames: fc.constantFrom(3, 4, 6, 8, 12, 16, 2), sampleRate: fc.constant(1) }),
  ],
  'file-size': [
    fc
      .tuple(range(12), maybe(fc.integer({ min: 1, max: 4 })))
      .map(([ends, multipleOf]) => ({ ...ends, ...(multipleOf ? { multipleOf } : {}) })),
    fc.record({ bytes: fc.integer({ min: 1, max: 30 }) }),
  ],
  tags: [
    fc.record({
      rule: fc.constantFrom('forbidden', 'allowed'),
      allowed: maybe(some('LIST')),
      forbidden: maybe(some('LIST', 'smpl')),
      most: maybe(fc.integer({ min: 7, max: 17 })),
    }),
    fc.record({
      extras: fc.subarray([
        { name: 'LIST', bytes: 8 },
        { name: 'smpl', bytes: 8 },
      ]),
    }),
  ],
  extension: [
    fc.record({ anyOf: some(...EXTENSIONS) }),
    fc.record({ fileName: fc.constantFrom('a.wav', 'a.Bin', 'a') }),
  ],
  name: [
    fc.record(
      {
        most: fc.integer({ min: 1, max: 6 }),
        mostWithExtension: fc.integer({ min: 4, max: 9 }),
        plain: fc.constant(true),
        letterCase: fc.constant('lower'),
        digits: fc.integer({ min: 1, max: 3 }),
        reserved: some('bell', 'B'),
        notDigitsOnly: fc.constant(true),
        alphanumeric: fc.constant(true),
        noSpaces: fc.constant(true),
        from: fc.integer({ min: 1, max: 13 }),
        to: fc.integer({ min: 13, max: 200 }),
        anyOf: some('1.wav', 'B.WAV', 'chimes.wav'),
      },
      { requiredKeys: [] },
    ),
    fc.record({
      fileName: fc.constantFrom('1.wav', '12.wav', '123.wav', 'bell.wav', 'B.wav', 'b b.wav', 'b-b.wav', 'chimes.wav'),
    }),
  ],
  folder: [
    fc.record({ path: fc.constantFrom('sounds', 'Sounds', 'sounds/en', '') }),
    fc.record({ folder: fc.constantFrom('sounds', 'SOUNDS/en', '') }),
  ],
  'set-size': [
    fc.record({ most: fc.integer({ min: 1, max: 9 }) }),
    fc.integer({ min: 1, max: 10 }).map((bytes) => ({ members: [{ bytes, soundBytes: bytes }] })),
  ],
  'set-duration': [
    fc.record({ most: fc.integer({ min: 1, max: 9 }) }),
    fc.integer({ min: 1, max: 10 }).map((frames) => ({ members: [{ frames, sampleRate: 1 }] })),
  ],
  'file-count': [
    range(4),
    fc.integer({ min: 0, max: 5 }).map((count) => ({ members: Array(count).fill({ bytes: 1, soundBytes: 1 }) })),
  ],
};

function times(by: number) {
  return ({ least, most }: { least?: number | undefined; most?: number | undefined }) => ({
    ...(least ? { least: by * least } : {}),
    ...(most ? { most: by * most } : {}),
  });
}

const given = <T extends object>(entries: T) =>
  Object.fromEntries(Object.entries(entries).filter(([, value]) => value !== undefined));

describe('narrow', () => {
  test.each(Object.entries(CASES))('%s: what meets it meets both, and the other way round', (kind, [
    asks,
    subjects,
  ]) => {
    const { check, narrow } = requirementKinds.find((entry) => entry.kind === kind) as NonNullable<
      ReturnType<typeof kindOf>
    >;
    const requirement = asks.map((entries) => ({ key: kind, kind, ...given(entries) }) as unknown as Requirement);
    fc.assert(
      fc.property(requirement, requirement, fc.array(subjects, { minLength: 1, maxLength: 20 }), (a, b, drawn) => {
        const both = narrow?.(a, b);
        for (const change of drawn) {
          const { fileName = 'a.wav', folder = '', members = [] } = change as Partial<Subject> & { members?: never[] };
          const subject = { facts: { ...facts, ...change }, fileName, folder, takesArrays: true, members, others: [] };
          const meets = (asked: Requirement) => check(asked, subject).meets;
          expect(both ? meets(both) : false).toBe(meets(a) === true && meets(b) === true);
        }
        // Which of the two comes first changes the order of choices, nothing else.
        expect((narrow?.(b, a) ?? null) === null).toBe((both ?? null) === null);
      }),
    );
  });

  test('every kind that follows from a trait of a sheet can be narrowed', () => {
    const players = targets.flatMap((sheet) =>
      [null, ...sheet.variants.map(({ id }) => id)].map((id) => withVariant(sheet, id).player),
    );
    expect(players.every((player) => traitsOf(player).length > 0)).toBe(true);
    const followed = new Set(players.flatMap((player) => impliedBy(player).map(({ kind }) => kind)));
    // What else may lie on the card is of the card, and each of two may know of other files.
    followed.delete('nothing-else');
    expect([...followed].filter((kind) => !(kind in CASES))).toEqual([]);
  });
});
