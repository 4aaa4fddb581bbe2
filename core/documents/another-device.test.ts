import { expect, test } from 'vitest';
import { factsFor, sources } from '../chain/fixtures/sources.ts';
import { settle } from '../chain/index.ts';
import { targetOf, targets } from '../targets/index.ts';
import { EMPTY_JOB, forAnotherDevice, type JobDoc, newClip, settingsOf } from './index.ts';

const facts = factsFor(sources.quiet);
const clip = { ...newClip('a', 'Bell', 's', { start: 100, end: 9000 }), values: { nothing: 1 } };
const job = (wishes: JobDoc['clips'][number]['wishes'], more: Partial<JobDoc> = {}): JobDoc => ({
  ...EMPTY_JOB,
  format: 2,
  title: 'Cabin',
  sheet: 'microcontroller-8-bit-dac',
  variant: null,
  clips: [{ ...clip, wishes }],
  ...more,
});
const to = (sheet: string, of: JobDoc, variant: string | null = null) =>
  forAnotherDevice(of, targetOf(sheet), variant, () => facts);
const leftOf = (left: readonly { clip: string | null; what: string }[]) =>
  left.map(({ clip, what }) => `${clip}: ${what}`);

test.each([
  ['a rate that the other device plays', { rate: { sampleRate: 8000 } }, [], ['rate']],
  ['a rate that it does not', { rate: { sampleRate: 11_025 } }, ['Bell: rate'], []],
  ['a level', { level: { loudness: -20 } }, [], ['level']],
  ['fades', { ends: { fadeIn: { ms: 5 } } }, [], ['ends']],
  ['source code, for a phone', { wrap: { container: 'c-header', encoding: 'pcm-u8' } }, ['Bell: wrap'], []],
  ['two channels, for a phone', { channels: { mode: 'stereo' } }, ['Bell: channels'], []],
  ['as the sheet has it', { rate: 'automatic' }, [], ['rate']],
] as const)('%s', (_, wishes, left, kept) => {
  const moved = to('desk-phone-ring-tone', job(wishes));
  expect([leftOf(moved.left), Object.keys(moved.job.clips[0]?.wishes ?? {})]).toEqual([left, kept]);
  // Names and cuts go along, values only where they are asked for.
  expect(moved.job.clips[0]).toMatchObject({ name: 'Bell', pieces: clip.pieces, values: {} });
});

test('what was set for all clips, values and places go along as far as the device has them', () => {
  const places = { 3: 'a', 9: 'a' };
  const moved = to(
    'loop-player',
    job(
      {},
      {
        wishes: { wrap: { container: 'c-header', encoding: 'pcm-u8' }, level: { gainDb: 2 } },
        values: { flash: 9, tempo: 90 },
        places,
      },
    ),
  );
  expect(moved.job).toMatchObject({
    sheet: 'loop-player',
    wishes: { level: { gainDb: 2 } },
    values: { tempo: 90 },
    places: { 3: 'a' },
  });
  expect(leftOf(moved.left)).toEqual(['null: wrap', 'null: places']);
});

test('a value in other limits is left out, and the unknown variant refused', () => {
  expect(leftOf(to('loop-player', job({}, { values: { tempo: 5000 } })).left)).toEqual(['null: tempo']);
  expect(() => to('loop-player', job({}), 'x')).toThrow(/has no variant "x"/);
});

test.each(targets.map(({ id }) => [id]))('what goes along to %s settles there', (id) => {
  const wishes = {
    rate: { sampleRate: 16_000 },
    channels: { mode: 'left' },
    wrap: { container: 'wav', encoding: 'pcm-s16le', tags: { title: 'x' } },
    depth: { bits: 6 },
    ends: { frames: 4000 },
  } as const;
  const { job: moved } = to(id, job(wishes));
  const [only] = moved.clips;
  expect(only).toBeDefined();
  if (only) expect(() => settle({ facts, settings: settingsOf(only, moved), target: targetOf(id) })).not.toThrow();
});
