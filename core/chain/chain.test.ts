import fc from 'fast-check';
import * as v from 'valibot';
import { describe, expect, test } from 'vitest';
import { type Pcm, pcmReader, unwatched } from '../audio/index.ts';
import { openPlain } from '../facts/fixtures/open-plain.ts';
import { checkFile, checkSet, worstOf } from '../findings/index.ts';
import {
  demandsOf,
  headerlessReading,
  type Target,
  targetOf,
  targetSchema,
  targets,
  withVariant,
} from '../targets/index.ts';
import { InputError } from '../words/index.ts';
import { rendered } from './fixtures/render.ts';
import { factsFor, sources } from './fixtures/sources.ts';
import {
  automaticSettings,
  type ClipSettings,
  memoryStore,
  parseSettings,
  render,
  settle,
  soundBytesOf,
  stationIds,
} from './index.ts';

const phone = targetOf('desk-phone-ring-tone');
const board = targetOf('microcontroller-8-bit-dac');

const settled = (pcm: Pcm, change: Partial<ClipSettings> = {}, target: Target = phone) =>
  settle({ facts: factsFor(pcm), settings: { ...automaticSettings('Bell'), ...change }, target });

describe('settling', () => {
  test('settles all seven stations in the order of the line, each with a reason', () => {
    const { stations, obstacles } = settled(sources.plain);
    expect(Object.keys(stations)).toEqual(['cut', 'channels', 'rate', 'level', 'ends', 'depth', 'wrap']);
    expect(stationIds.map((id) => stations[id].byHand)).toEqual(new Array(7).fill(false));
    for (const id of stationIds) {
      expect(stations[id].why).toMatch(/\.$/);
      expect(stations[id].figure).not.toBe('');
    }
    expect(obstacles).toEqual([]);
  });

  test.each([
    ['plain', [[0.5, 0.5]], 'mix L+R'],
    ['rightDead', [[1, 0]], 'keep left'],
    ['leftDead', [[0, 1]], 'keep right'],
    ['outOfPhase', [[0.5, -0.5]], 'invert, mix'],
    ['nearlyOutOfPhase', [[1, 0]], 'keep left'],
    ['quiet', [[1]], 'mono'],
  ] as const)('channels of a source that is %s', (name, matrix, figure) => {
    const { channels } = settled(sources[name]).stations;
    expect(channels.plan.matrix).toEqual(matrix);
    expect(channels.figure).toBe(figure);
  });

  test('a mono source for a stereo sheet goes to both sides', () => {
    const sheet: Target = { ...phone, player: {}, requirements: [{ key: 'channels', kind: 'channels', anyOf: [2] }] };
    expect(settled(sources.quiet, {}, sheet).stations.channels.plan.matrix).toEqual([[1], [1]]);
  });

  test('a sheet without demands changes nothing but the cut', () => {
    const sheet: Target = { ...phone, player: {}, requirements: [{ key: 'tags', kind: 'tags', rule: 'forbidden' }] };
    const { stations } = settled(sources.plain, {}, sheet);
    expect(stations.rate.plan).toMatchObject({ from: 44_100, to: 44_100 });
    expect(stations.level.plan.goal).toEqual({ kind: 'gain', gainDb: 0 });
    expect(stations.ends.plan.frames).toBe(stations.ends.plan.incoming);
    expect(stations.wrap.plan).toMatchObject({ container: 'wav', encoding: 'pcm-s16le', extension: 'wav' });
  });

  // Common practice, no source: 50 000 frames become 49 920 = 208 x 240.
  test('50 000 frames in blocks of 240 become 49 920', () => {
    const sheet: Target = { ...phone, player: {}, requirements: [{ key: 'frames', kind: 'frames', multipleOf: 240 }] };
    const source = { sampleRate: 8000, channels: [new Float32Array(50_000)] };
    const { ends } = settled(source, {}, sheet).stations;
    expect(ends.plan.frames).toBe(49_920);
    expect(ends.figure).toBe('208 × 240');
    expect(settled(source, { ends: { block: 'pad' } }, sheet).stations.ends.plan.frames).toBe(50_160);
  });

  test('whatever the cut, the frames divide by the block and are at least one block', () => {
    const facts = factsFor(sources.long);
    fc.assert(
      fc.property(fc.nat(facts.frames - 2), fc.nat(facts.frames), (start, length) => {
        const end = Math.min(facts.frames, start + 1 + length);
        const { stations, obstacles } = settle({
          facts,
          settings: { ...automaticSettings('x'), cut: { start, end } },
          target: phone,
        });
        expect(stations.ends.plan.frames % 240).toBe(0);
        expect(stations.ends.plan.frames).toBeGreaterThanOrEqual(240);
        expect(obstacles).toEqual([]);
      }),
    );
  });

  const older = withVariant(phone, 'older-sets');

  test('what is too long is an obstacle, and each way out removes it', () => {
    const { obstacles } = settled(sources.long, {}, older);
    expect(obstacles).toHaveLength(1);
    expect(obstacles[0].text).toBe('It is 17.990 s too long: the sheet allows 2.010 s, 16\u202f080 frames.');
    expect(obstacles[0].ways).toHaveLength(2);
    for (const { station, wish } of obstacles[0].ways) {
      const after = settled(sources.long, { [station]: wish } as Partial<ClipSettings>, older);
      expect(after.obstacles).toEqual([]);
      expect(after.stations.ends.plan.frames).toBe(16_080);
    }
  });

  // Common practice, no source: a newer set plays 72 720 = 303 x 240 frames without trouble.
  test('longer than older sets take is advised against, and nothing is cut', () => {
    const source = { sampleRate: 8000, channels: [new Float32Array(72_720)] };
    const { stations, obstacles } = settled(source);
    expect(obstacles).toEqual([]);
    expect(stations.ends.plan.frames).toBe(72_720);
  });

  test.each([
    ['ends before it starts', { start: 500, end: 100 }, 'cut-order'],
    ['has no length', { start: 500, end: 500 }, 'cut-order'],
    ['ends behind the source', { start: 0, end: 99_999_999 }, 'cut-outside'],
    ['starts behind the source', { start: 99_999_999, end: null }, 'cut-outside'],
  ])('a cut that %s is refused', (_, cut, code) => {
    expect(() => settled(sources.plain, { cut })).toThrow(expect.objectContaining({ code }));
  });

  test('a container that cannot carry the encoding is refused with the names of both', () => {
    expect(() => settled(sources.plain, { wrap: { container: 'au', encoding: 'pcm-u8' } })).toThrow(
      'Wrap: AU cannot carry 8-bit unsigned PCM; choose another container or encoding.',
    );
  });

  test('the size is known before anything is rendered', () => {
    expect(soundBytesOf(settled(sources.plain, {}, board))).toBe(24_000);
  });
});

describe('settings', () => {
  test('are whole after being stored', () => {
    const settings = parseSettings({ name: ' Bell ', level: { peakDb: -3 } });
    expect(settings).toMatchObject({ name: 'Bell', level: { peakDb: -3 }, cut: 'automatic', wrap: 'automatic' });
    expect(parseSettings(JSON.parse(JSON.stringify(settings)))).toEqual(settings);
  });

  test.each([
    [{ name: '  ' }, /a clip needs a name/],
    [{ name: 'x', rate: { sampleRate: 3 } }, /rate\.sampleRate/],
    [{ name: 'x', wrap: { extension: '../x' } }, /1 to 8 letters or digits/],
    [{ name: 'x', wrap: { storageAttribute: '};' } }, /an attribute has/],
    ['nothing', /Setting/],
  ])('%j is refused in words', (value, words) => {
    let message = '';
    try {
      parseSettings(value);
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      message = error.message;
    }
    expect(message).toMatch(words);
  });
});

describe('render', () => {
  const wavSheet: Target = {
    ...phone,
    player: {},
    requirements: [{ key: 'container', kind: 'container', anyOf: ['wav'] }],
  };

  test('an untouched 16-bit sound keeps every sample', async () => {
    const pcm = {
      sampleRate: 44_100,
      channels: [0, 1].map((c) =>
        Float32Array.from({ length: 3000 }, (_, i) => (((i * 7 + c) % 65_536) - 32_768) / 32_768),
      ),
    };
    const { bytes, report } = await rendered(settled(pcm, {}, wavSheet), pcm);
    expect(openPlain(bytes).pcm).toEqual(pcm);
    expect(report).toMatchObject({ gainDb: 0, clippedFrames: 0 });
  });

  test('the peak goal is met, and reported as gain and headroom', async () => {
    const chain = settled(sources.quiet, { level: { peakDb: -6 } }, wavSheet);
    const { report, bytes } = await rendered(chain, sources.quiet);
    expect(report.gainDb).toBeCloseTo(20 * Math.log10(1 / 0.002) - 6, 1);
    expect(report.headroomDb).toBeCloseTo(6, 6);
    expect(20 * Math.log10(openPlain(bytes).facts.levels.peak[0])).toBeCloseTo(-6, 2);
  });

  test('automatic raises by 40 dB at most, and leaves silence alone', async () => {
    const far = { sampleRate: 8000, channels: [sources.quiet.channels[0].map((value) => value / 100)] };
    expect((await rendered(settled(far), far)).report.gainDb).toBe(40);
    const silent = await rendered(settled(sources.silent), sources.silent);
    expect(silent.report).toMatchObject({ gainDb: 0, headroomDb: null, clippedFrames: 0 });
    expect(silent.data.every((byte) => byte === 0xff)).toBe(true);
  });

  test('a gain beyond the headroom is counted in flattened frames', async () => {
    const chain = settled(sources.plain, { level: { gainDb: 20 } }, wavSheet);
    expect((await rendered(chain, sources.plain)).report.clippedFrames).toBeGreaterThan(1000);
  });

  test('fewer bits than the encoding has use its upper levels', async () => {
    const chain = settled(sources.plain, { depth: { bits: 5, dither: 'none' } }, board);
    const { data } = await rendered(chain, sources.plain);
    expect(data.every((byte) => byte % 8 === 0)).toBe(true);
    expect(new Set(data).size).toBeLessThanOrEqual(32);
  });

  test('same chain, same sound, same bytes; another seed, other bytes', async () => {
    const bytesWith = async (seed: number) =>
      (await rendered(settled(sources.plain, { depth: { seed } }, board), sources.plain)).bytes;
    expect(await bytesWith(1)).toEqual(await bytesWith(1));
    expect(await bytesWith(1)).not.toEqual(await bytesWith(2));
  });

  test('a reader that gives small pieces and one that gives all make the same bytes', async () => {
    const chain = settled(sources.long, { cut: { start: 1000, end: 400_000 } });
    const sizes: number[] = [];
    const watched = pcmReader(sources.long);
    const reader = {
      ...watched,
      read: (start: number, count: number) => {
        sizes.push(count);
        return watched.read(start, count);
      },
    };
    await render(chain, reader, memoryStore(), unwatched);
    expect(Math.max(...sizes)).toBeLessThanOrEqual(65_536);
  });
});

describe('sheets and findings', () => {
  test.each(
    targets.map((target) => [target.id, target] as const),
  )('%s is a valid sheet and its id is made of its name', (id, target) => {
    expect(v.parse(targetSchema, JSON.parse(JSON.stringify(target)))).toEqual(target);
    expect(id).toBe((target.name.toLowerCase().match(/[a-z0-9]+/g) ?? []).join('-'));
  });

  test('an unknown target is refused with the ones that exist', () => {
    expect(() => targetOf('toaster')).toThrow(
      `There is no target "toaster"; choose one of: ${targets.map(({ id }) => id).join(', ')}.`,
    );
  });

  test('what a source breaks is said as wanted, found and mend', () => {
    const findings = checkFile(phone, factsFor(sources.plain), 'bell.wav');
    expect(
      findings.map(({ requirement, verdict, wanted, found, mend }) => [requirement, verdict, wanted, found, mend]),
    ).toEqual([
      ['container', 'breaks', 'headerless', 'WAV', 'write the bare samples, without a header'],
      ['encoding', 'breaks', 'mu-law', '16-bit signed PCM', 'encode it as mu-law'],
      ['sample-rate', 'breaks', '8\u202f000 Hz', '44\u202f100 Hz', 'resample it to 8\u202f000 Hz'],
      ['channels', 'breaks', 'mono', 'stereo', 'make it mono'],
      [
        'frames',
        'breaks',
        'at least 240 frames, in blocks of 240',
        '1.500 s, 66\u202f150 frames, 150 over a block',
        'trim 150 frames or pad 90',
      ],
      ['peak', 'advises', '\u22121.0 dBFS', '\u221212.0 dBFS', 'change the level by +11.0 dB'],
      ['tags', 'meets', 'none', 'none', ''],
      ['extension', 'breaks', '.raw', '.wav', 'name it .raw'],
    ]);
    expect(worstOf(findings)).toBe('breaks');
  });

  test('headerless bytes of unknown origin are not vouched for', () => {
    const { facts } = openPlain(new Uint8Array(480).fill(0x80), headerlessReading(phone));
    const verdicts = Object.fromEntries(
      checkFile(phone, facts, 'x.raw').map(({ requirement, verdict }) => [requirement, verdict]),
    );
    expect(verdicts).toMatchObject({
      container: 'meets',
      encoding: 'unknown',
      'sample-rate': 'unknown',
      channels: 'unknown',
      frames: 'meets',
    });
  });

  // Common practice, no source: 16 000 Hz x 8 bit = 16 000 bytes a second, so that 4.096 s fill 64 KiB.
  test.each([
    [[65_536], 'meets'],
    [[40_000, 25_537], 'breaks'],
  ])('set of %j bytes: %s', (sizes, verdict) => {
    const [finding] = checkSet(board, {
      members: sizes.map((bytes) => ({ bytes: bytes * 5, soundBytes: bytes, frames: bytes, sampleRate: 16_000 })),
    });
    expect(finding.verdict).toBe(verdict);
  });

  test('frame rules say how far off a length is', () => {
    const sheet: Target = {
      ...phone,
      player: {},
      requirements: [{ key: 'frames', kind: 'frames', multipleOf: 240, least: 240 }],
    };
    const of = (frames: number) =>
      checkFile(sheet, { ...factsFor(sources.quiet), sampleRate: 8000, frames }, 'x.raw')[0];
    expect(of(480).verdict).toBe('meets');
    expect(of(250).mend).toBe('trim 10 frames or pad 230');
    expect(of(80).mend).toBe('add 0.020 s of silence');
  });

  test('demands remember the requirement that they come from', () => {
    expect(demandsOf(phone).sampleRates).toEqual({
      value: [8000],
      from: { key: 'sample-rate', kind: 'sample-rate', anyOf: [8000] },
    });
  });
});
