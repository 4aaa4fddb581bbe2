import {
  automaticSettings,
  type ClipSettings,
  checkFile,
  demandsOf,
  type Facts,
  folderOf,
  headerlessReading,
  inMemory,
  makeClip,
  openStream,
  type Pcm,
  pcmReader,
  plannedFiles,
  settle,
  surveyStream,
  type Target,
  targets,
  unwatched,
  wholeOf,
  withVariant,
} from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { factsFor, sources } from '../core/chain/fixtures/sources.ts';
import { makeFrom } from '../core/delivery/fixtures/make.ts';
import { someOf } from './fixtures/some.ts';
import { library, openSourceStream } from './index.ts';

/** Every sheet, and every variant of it, with some of the sources. */
const editions = targets
  .flatMap((target) => [
    { name: target.id, target },
    ...(target.variants ?? []).map(({ id }) => ({ name: `${target.id}, ${id}`, target: withVariant(target, id) })),
  ])
  .map((edition, i) => ({ ...edition, from: someOf(Object.entries(sources), i) }));

test('each source comes up', () => {
  expect(new Set(editions.flatMap(({ from }) => from.map(([name]) => name)))).toEqual(new Set(Object.keys(sources)));
});

/** What the file is to somebody who has it from anywhere: read again, nothing believed. */
async function checkAnew(target: Target, bytes: Uint8Array, fileName: string, sourceTags: Facts['tags']) {
  const stream = await openSourceStream(inMemory(bytes), { reading: headerlessReading(target) });
  const facts = await surveyStream(stream, () => undefined);
  return checkFile(target, facts, fileName, { folder: folderOf(target), sourceTags });
}

describe.each(editions)('$name', ({ target, from }) => {
  const [{ stem } = { stem: 'x' }] = plannedFiles([{ id: 'x', name: 'x' }], {}, target);

  test.each(
    from,
  )('from a source that is %s: no break, or an obstacle with ways out that all work', async (_, pcm: Pcm) => {
    const facts = factsFor(pcm);
    const settings = automaticSettings('x');
    const [obstacle] = settle({ facts, settings, target, stem }).obstacles;
    if (obstacle) expect(obstacle.ways.length).toBeGreaterThan(0);
    const tried: ClipSettings[] = obstacle
      ? obstacle.ways.map(({ station, wish }) => ({ ...settings, [station]: wish }))
      : [settings];
    for (const settings of tried) {
      const chain = settle({ facts, settings, target, stem });
      const made = await makeClip(chain, pcmReader(pcm), unwatched, { library });
      expect(made.findings.filter(({ verdict }) => verdict === 'breaks' || verdict === 'unknown')).toEqual([]);
      expect(made.facts.bytes).toBe(made.file.size);
      const bytes = wholeOf(made.file);
      const anew = await checkAnew(target, bytes, chain.fileName, facts.tags);
      expect(anew.filter(({ verdict }) => verdict === 'breaks')).toEqual([]);
      const most = demandsOf(target).setBytes?.value ?? Number.POSITIVE_INFINITY;
      expect(made.facts.soundBytes ?? made.facts.bytes).toBeLessThanOrEqual(most);
    }
  });
});

test('the same sound gives the same bytes, whoever encodes it and however often', async () => {
  const pcm = sources.quiet;
  for (const encoding of ['mp3', 'aac', 'flac', 'vorbis', 'opus']) {
    const container = { mp3: 'mp3', aac: 'mp4', flac: 'flac', vorbis: 'ogg', opus: 'ogg' }[encoding] as 'mp3';
    const settings = { ...automaticSettings('x'), wrap: { container, encoding } };
    const target = { ...targets[0], player: {}, requirements: [{ key: 'peak', kind: 'peak' as const, goal: -1 }] };
    const make = () => makeFrom(pcm, settings, target, { library });
    const [a, b] = [await make(), await make()];
    expect(wholeOf(a.file)).toEqual(wholeOf(b.file));
    const { pcm: decoded } = await openStream(await openSourceStream(a.file));
    expect(decoded.channels[0]).toHaveLength(a.facts.frames);
  }
});
