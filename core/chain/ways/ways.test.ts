import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Pcm, unwatched } from '../../audio/index.ts';
import { framesAtRate } from '../../numbers/index.ts';
import { type Requirement, type Target, targetOf } from '../../targets/index.ts';
import { factsFor, sources } from '../fixtures/sources.ts';
import {
  automaticSettings,
  type ClipSettings,
  memoryStore,
  parseSettings,
  render,
  settle,
  waysForMany,
} from '../index.ts';

const sheet = (...requirements: Requirement[]): Target => ({
  ...targetOf('console-sound-slot'),
  player: {},
  requirements,
});
const settled = (pcm: Pcm, target: Target, change: Partial<ClipSettings> = {}) =>
  settle({ facts: factsFor(pcm), settings: parseSettings({ ...automaticSettings('x'), ...change }), target });

/** A tone with so many seconds of silence around it. */
const tone = (front: number, seconds: number, back: number, hz = 440, rate = 16_000): Pcm => ({
  sampleRate: rate,
  channels: [
    Float32Array.from({ length: Math.round((front + seconds + back) * rate) }, (_, i) =>
      i < front * rate || i >= (front + seconds) * rate ? 0 : 0.5 * Math.sin((2 * Math.PI * hz * i) / rate),
    ),
  ],
});

const bare: Requirement[] = [
  { key: 'container', kind: 'container', anyOf: ['headerless'] },
  { key: 'channels', kind: 'channels', anyOf: [1] },
];
const labelsOf = (pcm: Pcm, target: Target) => settled(pcm, target).obstacles[0].ways.map(({ label }) => label);

describe('ways out of a fit that is impossible', () => {
  test('silence first, then what the sheet accepts too, then a cut; each with its figure', () => {
    const target = sheet(
      ...bare,
      { key: 'encoding', kind: 'encoding', anyOf: ['pcm-s16le', 'ima-adpcm-low'] },
      { key: 'sample-rate', kind: 'sample-rate', anyOf: [16_000, 8000] },
      { key: 'file-size', kind: 'file-size', most: 33_000 },
    );
    // 33 000 bytes are 1.031 s of 16 bits at 16 000 Hz, 4.125 s of 4 bits, 2.062 s at 8 000 Hz. Silence is 1.31 s.
    expect(labelsOf(tone(0.31, 0.9, 0), target)).toEqual([
      'Trim 0.310 s of silence at the start: fits with 0.131 s to spare',
      'bare IMA ADPCM, low nibble first: fits with 2.915 s to spare',
      '8\u202f000 Hz instead of 16\u202f000 Hz, loses next to nothing above 4\u202f000 Hz: fits with 0.853 s to spare',
      'Cut 0.179 s off the end',
      'Cut 0.179 s off the start',
    ]);
  });

  test('a lower rate says what is lost above its half', () => {
    const target = sheet(
      ...bare,
      { key: 'encoding', kind: 'encoding', anyOf: ['pcm-s16le'] },
      { key: 'sample-rate', kind: 'sample-rate', anyOf: [16_000, 8000] },
      { key: 'file-size', kind: 'file-size', most: 20_000 },
    );
    // Half of the power lies at 6 kHz, above 4 kHz: 10 log10 2 = 3.0 dB.
    const { channels } = tone(0, 1, 0, 1000);
    const mixed = {
      sampleRate: 16_000,
      channels: [channels[0].map((value, i) => value + 0.5 * Math.sin((2 * Math.PI * 6000 * i) / 16_000))],
    };
    expect(labelsOf(mixed, target)[0]).toMatch(
      /^8\u202f000 Hz instead of 16\u202f000 Hz, loses 3\.0 dB above 4\u202f000 Hz: fits with/,
    );
  });

  test('silence at one end, the other, or both: only what is enough is offered', () => {
    const target = sheet(
      ...bare,
      { key: 'encoding', kind: 'encoding', anyOf: ['pcm-s16le'] },
      { key: 'duration', kind: 'duration', most: 1 },
    );
    const trims = (pcm: Pcm) => labelsOf(pcm, target).filter((label) => label.startsWith('Trim'));
    expect(trims(tone(0.2, 0.9, 0.2))).toEqual(['Trim 0.400 s of silence at both ends: fits with 0.100 s to spare']);
    expect(trims(tone(0, 0.9, 0.4))).toEqual(['Trim 0.400 s of silence at the end: fits with 0.100 s to spare']);
    expect(trims(tone(0.3, 1.4, 0.3))).toEqual([]);
  });

  test('a lower bit rate, where the sheet has several; mono, where it takes both', () => {
    const target = sheet(
      { key: 'container', kind: 'container', anyOf: ['mp3'] },
      { key: 'encoding', kind: 'encoding', anyOf: ['mp3'] },
      { key: 'bit-rate', kind: 'bit-rate', anyOf: [320_000, 192_000, 64_000] },
      { key: 'channels', kind: 'channels', anyOf: [2, 1] },
      { key: 'file-size', kind: 'file-size', most: 500_000 },
    );
    expect(labelsOf(sources.long, target)[0]).toMatch(
      /^192 kbit\/s instead of 320 kbit\/s: fits with 0\.6\d\d s to spare$/,
    );
    const raw = sheet(
      { key: 'container', kind: 'container', anyOf: ['headerless'] },
      { key: 'channels', kind: 'channels', anyOf: [2, 1] },
      { key: 'file-size', kind: 'file-size', most: 2_000_000 },
    );
    expect(labelsOf(sources.long, raw)[0]).toMatch(/^mono instead of stereo: fits with/);
  });

  test.each([
    [8000, 1, {}, 'MP3 at 8\u202f000 Hz, mono, cannot have 192 kbit/s: it ranges from 32 kbit/s to 64 kbit/s.', 'wrap'],
    [
      44_100,
      2,
      { bitRate: 56_000 },
      'MP3 at 44\u202f100 Hz, stereo, cannot have 56 kbit/s: it ranges from 32 kbit/s to 320 kbit/s, and 48 kbit/s is the nearest.',
      'wrap',
    ],
    [
      44_100,
      1,
      { bitRate: 57_000 },
      'MP3 at 44\u202f100 Hz, mono, cannot have 57 kbit/s: it ranges from 32 kbit/s to 320 kbit/s, and 64 kbit/s is the nearest.',
      'wrap',
    ],
    [
      44_100,
      2,
      { bitRate: 96_000, stereoMode: 'stereo' },
      'MP3 at 44\u202f100 Hz, plain stereo, cannot have 96 kbit/s: it ranges from 112 kbit/s to 320 kbit/s.',
      'wrap',
    ],
  ] as const)('a bit rate that %d Hz and %d channels do not have is said, and each way out of it works', (rate, count, wrap, text, station) => {
    const target = sheet(
      { key: 'container', kind: 'container', anyOf: ['mp3'] },
      { key: 'encoding', kind: 'encoding', anyOf: ['mp3'] },
      { key: 'sample-rate', kind: 'sample-rate', anyOf: [rate] },
      { key: 'channels', kind: 'channels', anyOf: [count] },
    );
    const { obstacles } = settled(sources.long, target, { wrap });
    expect(obstacles.map((entry) => entry.text)).toEqual([text]);
    expect(obstacles[0].ways[0].station).toBe(station);
    for (const way of obstacles[0].ways) {
      expect(settled(sources.long, target, { wrap, [way.station]: way.wish }).obstacles).toEqual([]);
    }
  });

  test.each([
    ['wav', 'RF64'],
    ['aiff', null],
    ['au', null],
  ])('what is larger than 4 GiB is an obstacle in %s, and refused before anything is made', async (container, way) => {
    const facts = { ...factsFor(sources.plain), frames: 600_000_000 };
    const target = sheet({ key: 'channels', kind: 'channels', anyOf: [2] });
    const wrap = { container, encoding: container === 'wav' ? 'pcm-s32le' : 'pcm-s32be' };
    const chain = settle({ facts, settings: parseSettings({ ...automaticSettings('x'), wrap }), target });
    expect(chain.obstacles[0].text).toMatch(/^It would take 4\.80 GB, but \S+ holds at most 4\.29 GB/);
    const found = chain.obstacles[0].ways.map(({ label }) => label);
    expect(found.some((label) => label.startsWith('RF64'))).toBe(way !== null);
    const never = { sampleRate: 44_100, channelCount: 2, frames: facts.frames, read: () => expect.unreachable() };
    await expect(render(chain, never, memoryStore(), unwatched)).rejects.toThrow(/^It would take/);
  });

  test('every way that is offered leads out, whatever the sheet', () => {
    const rates = fc.uniqueArray(fc.constantFrom(44_100, 22_050, 16_000, 8000), { minLength: 1 });
    const encodings = fc.uniqueArray(fc.constantFrom('pcm-s16le', 'pcm-u8', 'ima-adpcm-low', 'pcm-u5-packed'), {
      minLength: 1,
    });
    fc.assert(
      fc.property(rates, encodings, fc.integer({ min: 300, max: 400_000 }), (anyOf, ids, most) => {
        const target = sheet(
          ...bare,
          { key: 'encoding', kind: 'encoding', anyOf: ids },
          { key: 'sample-rate', kind: 'sample-rate', anyOf },
          { key: 'file-size', kind: 'file-size', most },
        );
        for (const pcm of [sources.quiet, sources.long]) {
          const { obstacles } = settled(pcm, target);
          for (const { station, wish } of obstacles.flatMap(({ ways }) => ways)) {
            expect(settled(pcm, target, { [station]: wish }).obstacles).toEqual([]);
          }
        }
      }),
      { numRuns: 25 },
    );
  });
});

describe('a size that is given', () => {
  test('Rate settles on the highest rate that fits, to the frame', () => {
    fc.assert(
      fc.property(fc.integer({ min: 20_000, max: 2_000_000 }), (most) => {
        const target = sheet(
          ...bare,
          { key: 'encoding', kind: 'encoding', anyOf: ['pcm-s16le'] },
          { key: 'sample-rate', kind: 'sample-rate', least: 500, most: 32_000 },
          { key: 'file-size', kind: 'file-size', most },
        );
        const { stations, obstacles } = settled(sources.long, target, { rate: 'automatic' });
        const { to } = stations.rate.plan;
        const length = sources.long.channels[0].length;
        if (obstacles.length) return;
        expect(stations.ends.plan.frames * 2).toBeLessThanOrEqual(most);
        if (to < 32_000) expect(framesAtRate(length, 44_100, to + 1) * 2).toBeGreaterThan(most);
      }),
      { numRuns: 60 },
    );
  });

  test.each([
    [400_000, 128_000],
    [200_000, 64_000],
    [90_000, 32_000],
    [4_000_000, 192_000],
  ])('%i bytes of MP3 for 20 s: %i bit/s', (most, wanted) => {
    const target = sheet(
      { key: 'container', kind: 'container', anyOf: ['mp3'] },
      { key: 'encoding', kind: 'encoding', anyOf: ['mp3'] },
      { key: 'bit-rate', kind: 'bit-rate', least: 32_000, most: 192_000 },
      { key: 'file-size', kind: 'file-size', most },
    );
    expect(settled(sources.long, target).stations.wrap.plan.compressed?.bitRate).toBe(wanted);
  });

  test('one clip alone has no more room than the whole set', () => {
    const { obstacles } = settled(sources.long, targetOf('microcontroller-8-bit-dac'));
    expect(obstacles[0].text).toBe(
      'It is 15.904 s too long: the sheet allows 65\u202f536 bytes for the whole set, in effect 4.096 s.',
    );
  });
});

describe('what stations settle from a sheet', () => {
  const wrapOf = (target: Target, change: Partial<ClipSettings> = {}, pcm = sources.quiet) =>
    settled(pcm, target, change).stations.wrap.plan;

  test.each<[Requirement[], object]>([
    [
      [{ key: 'container', kind: 'container', anyOf: ['mp3'] }],
      { encoding: 'mp3', extension: 'mp3', compressed: { bitRate: 192_000, stereoMode: 'joint', infoFrame: true } },
    ],
    [
      [
        { key: 'container', kind: 'container', anyOf: ['mp3'] },
        { key: 'tags', kind: 'tags', rule: 'forbidden' },
        { key: 'stereo-mode', kind: 'stereo-mode', mode: 'stereo' },
      ],
      { compressed: { bitRate: 192_000, stereoMode: 'stereo', infoFrame: false } },
    ],
    [
      [
        { key: 'container', kind: 'container', anyOf: ['headerless'] },
        { key: 'encoding', kind: 'encoding', anyOf: ['pcm-s16le', 'pcm-s16be'] },
        { key: 'byte-layout', kind: 'byte-layout', order: 'big' },
      ],
      { encoding: 'pcm-s16be', compressed: null },
    ],
    [
      [
        { key: 'container', kind: 'container', anyOf: ['rust'] },
        { key: 'encoding', kind: 'encoding', anyOf: ['pcm-s12le-left'] },
      ],
      { extension: 'rs' },
    ],
  ])('%j: %j', (requirements, plan) => expect(wrapOf(sheet(...requirements))).toMatchObject(plan));

  test.each([
    ['opus', 'ogg', 44_100, 48_000],
    ['mp3', 'mp3', 9000, 11_025],
    ['aac', 'mp4', 96_000, 48_000],
    ['flac', 'flac', 96_000, 96_000],
  ] as const)('%s in %s from %i Hz: %i Hz, what it can carry', (encoding, container, from, wanted) => {
    const pcm = { sampleRate: from, channels: [Float32Array.of(0, 0.5, 0.2)] };
    const { stations } = settled(pcm, sheet({ key: 'peak', kind: 'peak', goal: -1 }), {
      wrap: { encoding, container },
    });
    expect(stations.rate.plan.to).toBe(wanted);
  });

  test('a rate that an encoding cannot carry is refused with the nearest that it can', () => {
    const wrap = { encoding: 'opus', container: 'ogg' } as const;
    expect(() =>
      settled(sources.quiet, sheet({ key: 'peak', kind: 'peak', goal: -1 }), { wrap, rate: { sampleRate: 22_050 } }),
    ).toThrow('Rate: Opus cannot carry 22\u202f050 Hz; 48\u202f000 Hz is the nearest that it can.');
  });

  test('more channels than an encoding can carry come out as two, and are refused where they are kept by hand', () => {
    const six: Pcm = {
      sampleRate: 48_000,
      channels: Array.from({ length: 6 }, (_, i) => Float32Array.of(0.1 * i, 0.2)) as [Float32Array],
    };
    const target = sheet({ key: 'peak', kind: 'peak', goal: -1 });
    const wrap = { encoding: 'mp3', container: 'mp3' } as const;
    const { channels } = settled(six, target, { wrap }).stations;
    expect(channels.plan.matrix).toHaveLength(2);
    expect(channels.why).toMatch(/^MP3 carries at most 2 channels[.] The 6 channels are mixed/);
    expect(() => settled(six, target, { wrap, channels: { mode: 'keep' } })).toThrow(
      'Channels: MP3 carries at most 2 channels; choose fewer, or another encoding at Wrap.',
    );
    expect(
      settled(six, target, { wrap: { encoding: 'flac', container: 'flac' } }).stations.channels.plan.matrix,
    ).toHaveLength(6);
  });

  test("tags: none, those of the source, or the user's own", () => {
    const facts = { ...factsFor(sources.quiet), tags: [{ name: 'title', value: 'Bell' }] };
    const tagsOf = (requirements: Requirement[], tags?: Exclude<ClipSettings['wrap'], 'automatic'>['tags']) =>
      settle({
        facts,
        settings: parseSettings({ ...automaticSettings('x'), ...(tags ? { wrap: { tags } } : {}) }),
        target: sheet(...requirements),
      }).stations.wrap.plan.tags;
    const kept: Requirement[] = [{ key: 'tags', kind: 'tags', rule: 'kept' }];
    expect(tagsOf([{ key: 'peak', kind: 'peak', goal: -1 }])).toEqual([]);
    expect(tagsOf(kept)).toEqual(facts.tags);
    expect(tagsOf(kept, 'none')).toEqual([]);
    expect(tagsOf([{ key: 'peak', kind: 'peak', goal: -1 }], { title: ' Winch ', comment: '' })).toEqual([
      { name: 'title', value: 'Winch' },
    ]);
  });

  test('silence at the start is counted if it is there, and made if it is not; what is advised too', () => {
    const target = targetOf('show-controller-track');
    const { ends } = settled(sources.plain, target).stations;
    expect(ends.plan.front).toEqual({ frames: 5 * 44_100, atLeast: true });
    expect(ends.why).toContain('silence: 5.000 s or more at the start');
  });

  test('a DC rule takes the mean off; a loudness rule sets the goal', () => {
    const { plan } = settled(
      sources.quiet,
      sheet({ key: 'dc-offset', kind: 'dc-offset', most: -40 }, { key: 'loudness', kind: 'loudness', goal: -20 }),
    ).stations.level;
    expect(plan.removeDc).toBe(true);
    expect(plan.goal).toMatchObject({ kind: 'loudness', lufs: -20 });
  });

  test.each([
    [[2, 1], 1, 'The right side is silent, so the other is kept.'],
    [[2], 2, 'The right side is silent, so the other is put on both.'],
  ])('one dead side for a sheet that takes %j channels: %i', (anyOf, count, why) => {
    const { channels } = settled(sources.rightDead, sheet({ key: 'channels', kind: 'channels', anyOf })).stations;
    expect(channels.plan.matrix).toEqual(Array.from({ length: count }, () => [1, 0]));
    expect(channels.why).toBe(why);
  });
});

describe('ways for many clips at once', () => {
  const target = sheet(
    ...bare,
    { key: 'encoding', kind: 'encoding', anyOf: ['pcm-s16le'] },
    { key: 'duration', kind: 'duration', most: 1 },
  );
  const withSilence = tone(0, 0.9, 0.4);
  const [fine, long] = [tone(0, 0.5, 0), tone(0, 1.5, 0)];
  const chainsOf = (...sounds: readonly Pcm[]) => new Map(sounds.map((pcm, i) => [`${i}`, settled(pcm, target)]));

  test.each([
    ['one that fits and one that does not: its own ways are enough', [fine, long], []],
    [
      'all have silence',
      [withSilence, fine, withSilence],
      ['Trim silence in 2 clips: all fit', 'Cut in 2 clips: all fit'],
    ],
    [
      'one has none: it is cut',
      [withSilence, long, withSilence],
      ['Trim silence in 2 clips, cut in 1 clip: all fit', 'Cut in 3 clips: all fit'],
    ],
  ])('%s', (_, sounds, labels) => {
    const chains = chainsOf(...sounds);
    const ways = waysForMany(chains);
    expect(ways.map(({ label }) => label)).toEqual(labels);
    for (const { changes } of ways) {
      for (const [id, change] of changes) expect(settled(sounds[Number(id)], target, change).obstacles).toEqual([]);
    }
  });

  test('what nothing helps is counted', () => {
    const chains = chainsOf(withSilence, withSilence);
    const [[id, hopeless]] = [...chains];
    chains.set(id, { ...hopeless, obstacles: hopeless.obstacles.map((obstacle) => ({ ...obstacle, ways: [] })) });
    expect(waysForMany(chains).map(({ label }) => label)).toEqual([
      'Trim silence in 1 clip: 1 of 2 fit',
      'Cut in 1 clip: 1 of 2 fit',
    ]);
  });
});
