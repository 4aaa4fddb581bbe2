import {
  askedBy,
  type Card,
  checkCard,
  deviceOf,
  explain,
  type Facts,
  headerlessReading,
  inMemory,
  insert,
  isObservable,
  openStream,
  type Pcm,
  type Requirement,
  type SymptomId,
  surveyStream,
  type Target,
  targets,
  withVariant,
} from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { factsFor } from '../core/chain/fixtures/sources.ts';
import { delivered } from './fixtures/delivered.ts';
import { openSourceStream } from './index.ts';

/** Every sheet, and every variant of it. */
const editions = targets.flatMap((target) =>
  [null, ...target.variants.map(({ id }) => id)].map((id) => {
    const edition = withVariant(target, id);
    return { name: edition.name, target: edition };
  }),
);

/** A sound that is nowhere the same: a sweep that swells, the second channel another one. */
const sweep = (seconds: number, channels = 2): Pcm => ({
  sampleRate: 44_100,
  channels: Array.from({ length: channels }, (_, channel) =>
    Float32Array.from({ length: Math.round(44_100 * seconds) }, (_, i) => {
      const t = i / 44_100;
      return 0.7 * Math.min(1, 0.1 + t) * Math.sin(2 * Math.PI * (200 + 50 * channel + 300 * (t % 1)) * t);
    }),
  ),
});

async function played(target: Target, card: Card, path: string) {
  const device = await insert(card, deviceOf(target), openSourceStream);
  if (!device.shown.some(({ file }) => file.path === path)) return null;
  const playing = await device.play(path);
  const blocks: Float32Array[][] = [];
  for await (const block of playing.blocks()) blocks.push(block.map((samples) => samples.slice()));
  const channels = Array.from({ length: playing.channels }, (_, i) => blocks.flatMap((block) => [...block[i]]));
  return { sampleRate: playing.sampleRate, channels };
}

/** What a file is to whoever made it. */
async function truth(target: Target, card: Card, path: string) {
  const file = card.find((entry) => entry.path === path)!;
  const stream = await openSourceStream(file.bytes, { reading: headerlessReading(target) });
  const { pcm } = await openStream(stream);
  return { sampleRate: pcm.sampleRate, channels: pcm.channels.map((samples) => [...samples]) };
}

/** Where two sounds part; null if they are the same. */
function firstDifference(a: readonly (readonly number[])[], b: readonly (readonly number[])[]): string | null {
  if (a.length !== b.length) return `${a.length} and ${b.length} channels`;
  for (const [i, one] of a.entries()) {
    if (one.length !== b[i].length) return `${one.length} and ${b[i].length} frames`;
    const at = one.findIndex((value, frame) => value !== b[i][frame]);
    if (at >= 0) return `frame ${at} of channel ${i}: ${one[at]} and ${b[i][at]}`;
  }
  return null;
}

describe.each(editions)('$name', ({ target }) => {
  test('lists, accepts and plays what is delivered for it, sample for sample', async () => {
    const sounds = [
      { name: 'bell', pcm: sweep(0.7) },
      { name: 'doors', pcm: sweep(0.5, 1) },
    ];
    const { card, made } = await delivered(target, sounds);
    const device = await insert(card, deviceOf(target), openSourceStream);
    expect(device.refused).toEqual([]);
    expect(device.shown.map(({ file }) => file.path).sort()).toEqual(made.map(({ path }) => path).sort());
    for (const { path } of made) {
      const [own, real] = [await played(target, card, path), await truth(target, card, path)];
      expect(firstDifference(own?.channels ?? [], real.channels)).toBeNull();
      // A console plays at the rate of its slot's note, which its face sets.
      if (target.face?.id !== 'memory-map') expect(own?.sampleRate).toBe(real.sampleRate);
    }
  });
});

type ChangeCard = (card: Card, path: string) => { readonly card: Card; readonly path: string };

/** How a file comes to break one requirement and no other: a sheet that asks for something else there, or what is done to the card. */
interface Break {
  readonly instead?: Requirement;
  readonly pcm?: Pcm;
  readonly facts?: Facts;
  readonly card?: ChangeCard;
  /** So many sounds. */
  readonly count?: number;
}

const renamed =
  (change: (path: string) => string): ChangeCard =>
  (card, path) => ({
    card: card.map((file) => (file.path === path ? { ...file, path: change(path) } : file)),
    path: change(path),
  });
const besides =
  (...names: string[]): ChangeCard =>
  (card, path) => ({
    card: [...card, ...names.map((name) => ({ path: name, bytes: inMemory(Uint8Array.of(1, 2, 3)) }))],
    path,
  });

const tagged = (pcm: Pcm): Facts => ({ ...factsFor(pcm), tags: [{ name: 'title', value: 'Bell' }] });
const bytes = (text: string) => inMemory(new TextEncoder().encode(text));

/** Other encodings that a container of the sheet's own carries. */
const OTHER_ENCODINGS = ['pcm-s24le', 'pcm-u8', 'pcm-s8', 'pcm-u4'];

function breakOf(target: Target, requirement: Requirement): Break | null {
  const { key } = requirement;
  const all = askedBy(target);
  const has = (kind: string) => all.find((entry) => entry.kind === kind && !entry.advised);
  const isCompressed = all.some(
    (entry) => entry.kind === 'encoding' && ['mp3', 'aac', 'flac'].includes(entry.anyOf[0] ?? ''),
  );
  const isBlockwise = all.some((entry) => entry.kind === 'encoding' && entry.anyOf.some((id) => id.includes('adpcm')));
  switch (requirement.kind) {
    case 'container': {
      if (isCompressed || isBlockwise) return null;
      const bare = requirement.anyOf.includes('headerless');
      const array = has('array') !== undefined;
      const instead = bare ? 'caf' : requirement.anyOf.includes('wav') && !array ? 'caf' : 'headerless';
      return array ? null : { instead: { key, kind: 'container', anyOf: [instead] } };
    }
    case 'encoding': {
      if (isCompressed) return null;
      const other = OTHER_ENCODINGS.filter((id) => !requirement.anyOf.includes(id));
      return { instead: { key, kind: 'encoding', anyOf: [other[0] ?? ''] }, pcm: sweep(0.31) };
    }
    case 'array':
      return {
        card: (card, path) => ({
          card: card.map((file) => (file.path === path ? { ...file, bytes: bytes('/* no sound */') } : file)),
          path,
        }),
      };
    case 'sample-rate':
    case 'timer-rate': {
      const rate = has('bit-rate') || isCompressed ? 32_000 : 37_800;
      return { instead: { key, kind: 'sample-rate', anyOf: [rate] }, pcm: sweep(0.31) };
    }
    case 'channels': {
      if (requirement.anyOf.length > 1 || has('stereo-mode')) return null;
      const other = requirement.anyOf[0] === 1 ? 2 : 1;
      return { instead: { key, kind: 'channels', anyOf: [other] } };
    }
    case 'duration':
      // Below what the size allows: of files of the greatest length all are too large as well.
      return has('file-size') ? null : { instead: { key, kind: 'duration', most: 60 }, pcm: sweep(41) };
    case 'file-size':
      return { instead: { key, kind: 'file-size', most: 62_000 }, pcm: sweep(has('duration') ? 3.8 : 2, 1) };
    case 'frames':
      return requirement.most === undefined
        ? { instead: { key, kind: 'frames', multipleOf: 7, least: 240 }, pcm: sweep(0.31) }
        : { instead: { key, kind: 'frames', multipleOf: 240, least: 16_320 }, pcm: sweep(2.05) };
    case 'bit-rate':
      return { instead: { key, kind: 'bit-rate', anyOf: [256_000], constant: true } };
    case 'stereo-mode':
      return { instead: { key, kind: 'stereo-mode', mode: 'stereo' } };
    case 'tags':
      return requirement.rule !== 'forbidden' || has('container')?.key === undefined
        ? null
        : headerlessReading(target)
          ? null
          : { instead: { key, kind: 'tags', rule: 'kept' }, facts: tagged(sweep(0.7)) };
    case 'extension':
      return { card: renamed((path) => path.replace(/\.\w+$/, '.xyz')) };
    case 'name':
      return { card: renamed((path) => path.replace(/[\w-]+(\.\w+)$/, requirement.digits ? 'bell$1' : 'zwölf!$1')) };
    case 'folder':
      return { card: renamed((path) => `sounds/de/${path.split('/').pop()}`) };
    case 'bars':
      return { instead: { key, kind: 'bars', anyOf: [1], beats: 4, tempo: 121 } };
    case 'nothing-else':
      return { card: besides('.bell.wav') };
    case 'file-count':
      return { count: 9 };
    case 'set-size':
      return { count: 12, pcm: sweep(1.2, 1) };
    default:
      return null;
  }
}

/** Requirements that no file breaks alone, or that only a file could break which nobody can make here, with the reason. */
const NOT_ALONE: Readonly<Record<string, string>> = {
  container: 'no other container carries the encoding, or the file is the one in the array',
  encoding: 'a compressed encoding has a container of its own',
  channels: 'one and two are allowed and no station makes three, or mono is no joint stereo either',
  duration: 'a file that is too long is too large as well',
  tags: 'bare samples have none, and tags that were lost are missing',
};

describe.each(editions)('$name: of what it asks', ({ target }) => {
  const musts = askedBy(target).filter(({ advised }) => !advised);

  test.each(
    musts.map((requirement) => [requirement.key, requirement] as const),
  )('%s: a file that breaks only that gives a sign of it, or it is marked as one that cannot be observed', async (key, requirement) => {
    const how = breakOf(target, requirement);
    if (!how) return expect(NOT_ALONE).toHaveProperty(requirement.kind);
    const { instead, pcm = sweep(0.7), facts = factsFor(pcm), count = 1 } = how;
    const asked = instead
      ? { ...target, requirements: [...target.requirements.filter((entry) => entry.key !== key), instead] }
      : target;
    const names = Array.from({ length: count }, (_, i) => ({ name: i ? `bell${i}` : 'bell', pcm, facts }));
    const made = await delivered(asked, names);
    const last = made.made.at(-1)!.path;
    const { card, path } = how.card?.(made.card, last) ?? { card: made.card, path: last };

    const read = async ({ bytes: file }: Card[number]) =>
      surveyStream(await openSourceStream(file, { reading: headerlessReading(target) }), () => undefined);
    const checked = await checkCard(target, card, { read, isWhole: true, onRead: () => undefined });
    const found = [...checked.set, ...checked.files.flatMap(({ findings }) => findings)];
    const broken = found.filter(({ verdict }) => verdict === 'breaks').map((finding) => finding.key);
    expect(broken.filter((one) => one !== key && !target.lists.some((list) => list.key === one))).toEqual([]);

    const [own, real] = [await played(target, card, path), await truth(asked, card, path).catch(() => null)];
    const isObserved =
      own === null ||
      JSON.stringify(own) !== JSON.stringify(real) ||
      (await insert(card, deviceOf(target), openSourceStream)).refused.length > 0;
    expect(isObserved).toBe(isObservable(target, requirement));
  });
});

/** Faults of compressed sound, which the program that plants the others cannot write. */
describe('a show controller and its track', () => {
  const show = targets.find(({ id }) => id === 'show-controller-track')!;
  const asked = (more: Requirement): Target => ({
    ...show,
    requirements: [...show.requirements.filter(({ key }) => key !== more.key), more],
  });
  const fast: Requirement = { key: 'bit-rate', kind: 'bit-rate', anyOf: [128_000], constant: true };

  test.each<[string, Target, object, SymptomId, readonly string[]]>([
    ['as it should be', show, {}, 'start-missing', []],
    ['without silence in front', show, { ends: { front: { ms: 1 } } }, 'start-missing', ['start-lost']],
    ['at another bit rate', asked(fast), {}, 'refused', ['wrong-bit-rate']],
  ])('%s', async (_, target, settings, symptom, causes) => {
    const { card, made } = await delivered(target, [{ name: 'bell', pcm: sweep(0.7), settings }]);
    const situation = {
      card,
      path: made[0].path,
      device: deviceOf(show),
      isWhole: true,
      openForeign: openSourceStream,
    };
    const found = await explain(symptom, situation);
    expect(found.causes.map(({ cause }) => cause.id)).toEqual(causes);
  });
});
