import { findEncoding } from '../encodings/index.ts';
import { freeId } from '../forms/index.ts';
import { USUAL_LIST } from '../lists/index.ts';
import type { Json } from './json.ts';

/**
 * From format 1 to format 2. This is history: it is mended, never extended, and reads whatever JSON it is given.
 */

const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const objectsIn = (value: unknown): readonly Json[] => (Array.isArray(value) ? value.filter(isObject) : []);
const without = (value: Json, ...keys: readonly string[]): Json =>
  Object.fromEntries(Object.entries(value).filter(([key]) => !keys.includes(key)));

/** Where an entry of format 2 stood in format 1, for those that were moved. */
export const MOVED_FROM_1: Readonly<Record<string, readonly string[]>> = {
  lists: ['listFile'],
  packs: ['listFile'],
  places: ['slots'],
};

const usualKey = ({ kind, advised }: Json): string => `${kind}${advised === true ? '-advised' : ''}`;

/** "duration" for the first requirement of that kind, "duration-advised" where it is advised, "duration-2" for the next. */
function keyed(requirements: readonly Json[]): readonly Json[] {
  const taken = new Set<string>();
  return requirements.map((requirement) => {
    const key = freeId(usualKey(requirement), (id) => taken.has(id));
    taken.add(key);
    return { key, ...requirement };
  });
}

const TRAITS_FROM_1: Readonly<Record<string, string>> = {
  extraChunks: 'extra-chunks',
  longestName: 'longest-name',
  playsAt: 'plays-at',
};

/** What a device of format 1 took bare samples for was said by its requirements alone. */
function assumedFrom1(requirements: readonly Json[]): Json {
  const first = (kind: string) => {
    const anyOf = requirements.find((requirement) => requirement.kind === kind)?.anyOf;
    return Array.isArray(anyOf) ? anyOf[0] : undefined;
  };
  const rate = requirements.find(({ kind }) => kind === 'sample-rate');
  const [clock, by] = String(first('sample-rate') ?? rate?.most ?? '')
    .split('/')
    .map(Number);
  const timer = requirements.find(({ kind }) => kind === 'timer-rate');
  const sampleRate = by ? (clock ?? 0) / by : clock || timer?.wanted;
  const encoding = first('encoding');
  return typeof encoding === 'string' && findEncoding(encoding) && sampleRate
    ? { assumes: { encoding, sampleRate, channels: first('channels') ?? 1 } }
    : {};
}

function playerFrom1(player: Json, requirements: readonly Json[]): Json {
  const traits = Object.entries(player).map(([id, value]) =>
    id === 'block' ? [id, { frames: value, fill: 'previous' }] : [TRAITS_FROM_1[id] ?? id, value],
  );
  return { ...Object.fromEntries(traits), ...(player.reads === 'bare' ? assumedFrom1(requirements) : {}) };
}

const isLike = (a: Json, b: Json): boolean => a.kind === b.kind && Boolean(a.advised) === Boolean(b.advised);

/** In format 1 a variant's requirement took the place of all of its kind, advised ones and others apart. */
function variantFrom1(variant: Json, before: readonly Json[], player: unknown): Json {
  const fresh = objectsIn(variant.requirements);
  const dropped = Array.isArray(variant.without) ? variant.without : [];
  const taken = new Set(before.map(({ key }) => String(key)));
  const used = new Set<Json>();
  const requirements = fresh.map((requirement) => {
    const old = before.find((entry) => isLike(entry, requirement) && !used.has(entry));
    if (old) used.add(old);
    const key = old ? String(old.key) : freeId(usualKey(requirement), (id) => taken.has(id));
    taken.add(key);
    return { key, ...requirement };
  });
  const isGone = (old: Json) => dropped.includes(old.kind) || fresh.some((requirement) => isLike(old, requirement));
  const gone = before.filter((old) => !used.has(old) && isGone(old)).map(({ key }) => key);
  // A kind that there is not stays where it is refused.
  const unknown = dropped.filter(
    (kind) => !before.some((old) => old.kind === kind) && !fresh.some((r) => r.kind === kind),
  );
  const dropping = new Set([...gone, ...requirements.map(({ key }) => key)]);
  const edition = [...requirements, ...before.filter(({ key }) => !dropping.has(key))];
  const traits = isObject(player) && player.reads === 'bare' ? assumedFrom1(edition) : {};
  const isOther = JSON.stringify(traits) !== JSON.stringify(assumedFrom1(before));
  return {
    ...without(variant, 'requirements', 'without'),
    replace: { requirements, ...(isOther && traits.assumes ? { player: traits } : {}) },
    without: [...gone, ...unknown],
  };
}

/** A list file that held the sounds was what is a pack now. */
function listsFrom1(listFile: unknown): Json {
  if (!isObject(listFile)) return { lists: [], packs: [] };
  const { name, header = '', index = '', row = '', footer = '', holdsSounds, ...rest } = listFile;
  if (holdsSounds === true) {
    return { lists: [], packs: [{ key: 'sounds', path: name, form: 'source', header, index, row, footer, ...rest }] };
  }
  const top = [header, index].filter((text) => text !== '').join('\n');
  return { lists: [{ key: 'list', path: name, ...USUAL_LIST, header: top, row, footer, ...rest }], packs: [] };
}

/** A part of another type than it should have stays, and is refused by the schema. */
const placesFrom1 = (slots: unknown): unknown => {
  if (!isObject(slots)) return slots;
  const { word, ...counted } = slots;
  return { words: [word], ...counted, labels: {} };
};

export function sheetFrom1(sheet: Json): Json {
  const { requirements, slots, listFile, player = {}, variants = [] } = sheet;
  const known = objectsIn(requirements);
  const isWhole = Array.isArray(requirements) && known.length === requirements.length;
  const keyedOnes = keyed(known);
  return {
    format: 2,
    edition: 1,
    ...without(sheet, 'slots', 'listFile', 'format'),
    ...(isWhole ? { requirements: keyedOnes } : {}),
    variants: Array.isArray(variants)
      ? variants.map((entry) => (isObject(entry) ? variantFrom1(entry, keyedOnes, player) : entry))
      : variants,
    blanks: [],
    ...(listFile === undefined || isObject(listFile) ? listsFrom1(listFile) : { lists: listFile, packs: [] }),
    ...(slots === undefined ? {} : { places: placesFrom1(slots) }),
    player: isObject(player) ? playerFrom1(player, known) : player,
    evidence: [],
  };
}

/** Settings of format 1 named every station, `automatic` for most; the cut stood among them. */
export function clipFrom1({ id, clipId, sourceId, settings }: Json): Json {
  const { version: _, name, cut, ...stations } = isObject(settings) ? settings : ({} as Json);
  const wishes = Object.entries(stations).filter(([, wish]) => wish !== 'automatic');
  return {
    id: id ?? clipId,
    name,
    wishes: Object.fromEntries(wishes),
    values: {},
    pieces: [{ source: sourceId, ...(isObject(cut) ? { cut } : {}), gapMs: 0 }],
  };
}

export function jobFrom1({ title, targetId, variantId, clips }: Json): Json {
  return {
    format: 2,
    title,
    sheet: targetId,
    variant: variantId ?? null,
    values: {},
    wishes: {},
    clips: Array.isArray(clips) ? clips.map((clip) => (isObject(clip) ? clipFrom1(clip) : clip)) : clips,
    places: {},
    ownLists: {},
  };
}

/** Findings of format 1 did not say which requirement of its kind they answered: they come in the order of the sheet. */
function findingsFrom1(findings: unknown, requirements: readonly Json[]): readonly Json[] {
  const seen = new Map<unknown, number>();
  return objectsIn(findings).map((finding) => {
    const alike = requirements.filter(({ kind }) => kind === finding.requirement);
    const count = seen.get(finding.requirement) ?? 0;
    seen.set(finding.requirement, count + 1);
    const { key = finding.requirement } = alike[count % Math.max(1, alike.length)] ?? {};
    return { key, ...finding };
  });
}

/** @param document `{ id, order, files, setFindings }`, as the database of format 1 had it */
export function deliveryFrom1({ id, order, files, setFindings, sources = {} }: Json): Json {
  const { jobTitle, target, clips } = isObject(order) ? order : ({} as Json);
  // It was kept in its variant, so that it has none any more.
  const sheet = isObject(target) ? { ...sheetFrom1(target), variants: [] } : ({} as Json);
  const job = jobFrom1({ title: jobTitle, targetId: sheet.id, clips });
  const requirements = objectsIn(sheet.requirements);
  const waiting = [...objectsIn(job.clips)];
  const artifacts = objectsIn(files).map<Json>(({ name, displayName, bytes, sha256, facts, report, findings }) => {
    const found = findingsFrom1(findings, requirements);
    const at = waiting.findIndex((clip) => clip.name === displayName);
    const file = { path: name, bytes, sha256, madeOf: '' };
    if (facts && at >= 0) {
      const [clip] = waiting.splice(at, 1);
      const part = { clip: clip?.id, offset: 0, length: bytes, facts, report, findings: found };
      return { ...file, role: 'sound', parts: [part] };
    }
    const isPack = objectsIn(sheet.packs).some(({ path }) => path === name);
    return { ...file, role: isPack ? 'pack' : 'list', parts: [], ...(found.length ? { findings: found } : {}) };
  });
  const inFiles = artifacts.flatMap(({ findings }) => objectsIn(findings));
  return {
    format: 2,
    id,
    core: '1',
    job,
    sheet,
    sources,
    artifacts: artifacts.map((artifact) => without(artifact, 'findings')),
    findings: [...findingsFrom1(setFindings, requirements), ...inFiles],
  };
}
