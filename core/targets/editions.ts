import * as v from 'valibot';
import { type FormField, formFields } from '../forms/index.ts';
import { allTraits, type Player } from '../standin/index.ts';
import { InputError, shortened } from '../words/index.ts';
import { followingFrom } from './asked.ts';
import type { Blank, Value, Values } from './parts.ts';
import { kindOf, type Requirement } from './requirements/index.ts';
import { sheetSchema, type Target, type Variant } from './target.ts';

/** Parts that have keys of their own. */
export const KEYED = ['requirements', 'lists', 'packs'] as const;

/** Every part of a sheet by its key, that is, what a blank or a piece of evidence may speak of. */
export const partsOf = (sheet: Target): ReadonlyMap<string, unknown> =>
  new Map<string, unknown>([
    ...KEYED.flatMap((list) => sheet[list].map((part) => [part.key, part] as const)),
    ...Object.entries(sheet.player),
    ...(sheet.places ? [['places', sheet.places] as const] : []),
    ...(sheet.face ? [['face', sheet.face] as const] : []),
  ]);

interface Keyed {
  readonly key: string;
}

/** Parts with some replaced where they stand, some left out, and what is new at the end. */
function replaced<P extends Keyed>(parts: readonly P[], fresh: readonly P[] = [], without: readonly string[]): P[] {
  const byKey = new Map(fresh.map((part) => [part.key, part]));
  const kept = parts.filter(({ key }) => byKey.has(key) || !without.includes(key));
  const known = new Set(kept.map(({ key }) => key));
  return [...kept.map((part) => byKey.get(part.key) ?? part), ...fresh.filter(({ key }) => !known.has(key))];
}

/** Parts that have no key, with some of them left out. */
const leftOut = <T extends object>(parts: T, without: readonly string[]): T =>
  Object.fromEntries(Object.entries(parts).filter(([name]) => !without.includes(name))) as T;

function edition(sheet: Target, { name, replace, without }: Variant): Target {
  const { requirements, lists, packs, player, naming = sheet.naming, ...alone } = replace;
  const { places, face, ...rest } = sheet;
  const whole: Target = {
    ...rest,
    ...leftOut({ ...(places ? { places } : {}), ...(face ? { face } : {}) }, without),
    ...alone,
    naming,
    name: `${sheet.name}, ${name}`,
    requirements: replaced(sheet.requirements, requirements, without),
    lists: replaced(sheet.lists, lists, without),
    packs: replaced(sheet.packs, packs, without),
    player: { ...leftOut(sheet.player, without), ...player },
    variants: [],
  };
  const following = new Set(followingFrom(whole.player).requirements.map(({ key }) => key));
  const parts = partsOf(whole);
  const isThere = ({ key }: Keyed) => parts.has(key);
  return {
    ...whole,
    without: [...new Set([...sheet.without, ...without])].filter((key) => following.has(key)),
    blanks: sheet.blanks.filter(({ at }) => at.every(isThere)),
    evidence: sheet.evidence.map((entry) => ({ ...entry, keys: entry.keys.filter((key) => parts.has(key)) })),
  };
}

/**
 * The sheet as one of its editions has it, which has no variants any more; the sheet itself for null.
 * @throws InputError with code `unknown-variant`
 */
export function withVariant(target: Target, variantId: string | null): Target {
  if (variantId === null) return target;
  const variant = target.variants.find((entry) => entry.id === variantId);
  if (variant) return edition(target, variant);
  const known = target.variants.map((entry) => entry.id);
  const choice = known.length ? `choose one of: ${known.join(', ')}` : 'it has none, so leave it out';
  throw new InputError('unknown-variant', `${target.name} has no variant "${shortened(variantId)}"; ${choice}.`);
}

/** A value with the one at a pointer replaced; undefined if the pointer leads nowhere. */
function withEntryAt(value: unknown, path: readonly string[], entry: Value): unknown {
  const [key, ...rest] = path;
  if (key === undefined) return entry;
  if (typeof value !== 'object' || value === null || !Object.hasOwn(value, key)) return undefined;
  const inner = withEntryAt((value as Readonly<Record<string, unknown>>)[key], rest, entry);
  if (inner === undefined) return undefined;
  return Array.isArray(value) ? value.map((old, i) => (String(i) === key ? inner : old)) : { ...value, [key]: inner };
}

/** Steps of a JSON pointer (RFC 6901, section 4). */
const stepsOf = (pointer: string): string[] =>
  pointer
    .split('/')
    .slice(1)
    .map((step) => step.replaceAll('~1', '/').replaceAll('~0', '~'));

/** A sheet with one blank filled; null if the blank points to what there is not. */
export function withBlank(sheet: Target, { at }: Blank, value: Value): Target | null {
  let filled: Target = sheet;
  for (const { key, pointer } of at) {
    const part = withEntryAt(partsOf(filled).get(key), stepsOf(pointer), value);
    if (part === undefined) return null;
    const put = <P extends Keyed>(parts: readonly P[]) => parts.map((old) => (old.key === key ? (part as P) : old));
    filled = {
      ...filled,
      requirements: put(filled.requirements),
      lists: put(filled.lists),
      packs: put(filled.packs),
      player: Object.hasOwn(filled.player, key) ? ({ ...filled.player, [key]: part } as Player) : filled.player,
      ...(key === 'places' || key === 'face' ? { [key]: part } : {}),
    };
  }
  return filled;
}

/** The sheet itself, where it still is one. @throws InputError with code `bad-setting` */
function stillASheet(sheet: Target): Target {
  const result = v.safeParse(sheetSchema, sheet);
  if (result.success) return sheet;
  const [list, index, ...rest] = result.issues[0].path?.map(({ key }) => String(key)) ?? [];
  const requirement = list === 'requirements' ? sheet.requirements[Number(index)] : undefined;
  const part = requirement ? kindOf(requirement) : allTraits.find(({ id }) => list === 'player' && id === index);
  const where = (part ? [part.title, ...rest] : [list, index, ...rest]).join(', ');
  throw new InputError(
    'bad-setting',
    `${sheet.name} cannot be filled in so: ${where}: ${result.issues[0].message}; choose another value.`,
  );
}

/**
 * A sheet with its blanks of one level filled by the values that are given, otherwise as is usual: it has those blanks no
 * more.
 * @throws InputError with code `bad-setting` if a value does not fit its place, or there is no blank for it
 */
export function filledIn(sheet: Target, level: Blank['level'], values: Values): Target {
  const asked = sheet.blanks.filter((blank) => blank.level === level);
  const stray = Object.keys(values).find((id) => !asked.some((blank) => blank.id === id));
  if (stray !== undefined) {
    throw new InputError('bad-setting', `${sheet.name} has no blank "${stray}" for a ${level}; leave the value out.`);
  }
  if (asked.length === 0) return sheet;
  const filled = asked.reduce<Target>(
    // A variant may have put something else where the blank points.
    (before, blank) => withBlank(before, blank, values[blank.id] ?? blank.usual) ?? before,
    { ...sheet, blanks: sheet.blanks.filter((blank) => blank.level !== level) },
  );
  return stillASheet(filled);
}

/** True if a sheet asks of some places what it does not ask of others. */
export const hasLimitsOfPlaces = ({ requirements }: Pick<Target, 'requirements'>): boolean =>
  requirements.some(({ kind }) => kind === 'place-duration');

/** The sheet for what plays at some places: what holds there holds of the whole file. */
function atPlaces(sheet: Target, slots: readonly number[]): Target {
  if (!hasLimitsOfPlaces(sheet)) return sheet;
  const first = sheet.places?.first ?? 0;
  const requirements = sheet.requirements.flatMap((entry): readonly Requirement[] => {
    if (entry.kind !== 'place-duration') return [entry];
    const limits = slots.flatMap((slot) => entry.most[slot - first] ?? []);
    const { kind: _, ...rest } = entry;
    return limits.length > 0 ? [{ ...rest, kind: 'duration', most: Math.min(...limits) }] : [];
  });
  return { ...sheet, requirements };
}

/**
 * The sheet for one clip: its blanks filled by the clip's values, and what the sheet asks of the places at which it plays.
 * @param slots numbers of the places
 * @throws InputError with code `bad-setting` if a value does not fit its place, or there is no blank for it
 */
export const sheetForClip = (sheet: Target, values: Values, slots: readonly number[]): Target =>
  atPlaces(filledIn(sheet, 'clip', values), slots);

/**
 * A sheet in which other values are usual: its blanks stay, and are filled with these until a job says otherwise.
 * @throws InputError with code `bad-setting` if a value does not fit its place, or there is no blank for it
 */
export function withUsual(sheet: Target, values: Values): Target {
  let changed = sheet;
  for (const [id, usual] of Object.entries(values)) {
    const blank = sheet.blanks.find((entry) => entry.id === id);
    if (!blank) {
      const known = sheet.blanks.map((entry) => entry.id).join(', ');
      const choice = known ? `choose one of: ${known}` : 'it has none, so leave it out';
      throw new InputError('bad-setting', `${sheet.name} has no blank "${shortened(id)}"; ${choice}.`);
    }
    const blanks = changed.blanks.map((entry) => (entry.id === id ? { ...entry, usual } : entry));
    const asked = { ...changed, blanks };
    changed = withBlank(asked, blank, usual) ?? asked;
  }
  return stillASheet(changed);
}

/** The field of a sheet's form that a blank fills, by which it is known what kind of value it takes and in which unit. */
export function fieldOf(sheet: Target, { at }: Blank): FormField | undefined {
  for (const { key, pointer } of at) {
    const requirement = sheet.requirements.find((entry) => entry.key === key);
    const schema = requirement ? kindOf(requirement).schema : allTraits.find(({ id }) => id === key)?.schema;
    const [first = ''] = stepsOf(pointer);
    const field = schema && formFields(schema).find((entry) => entry.key === first);
    if (field) return field;
  }
  return undefined;
}

/**
 * What a job is made for: the sheet in its variant, its blanks filled but for those of single clips.
 * @throws InputError with code `unknown-variant` or `bad-setting`
 */
export const sheetFor = (sheet: Target, variantId: string | null, values: Values): Target => ({
  ...filledIn(withVariant(sheet, variantId), 'job', values),
  variants: [],
});
