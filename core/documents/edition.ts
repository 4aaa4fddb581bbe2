import { impliedBy, traitsOf } from '../standin/index.ts';
import {
  askedBy,
  editionsOf,
  kindOf,
  type Requirement,
  requirementText,
  type Target,
  withVariant,
} from '../targets/index.ts';
import { formatCount } from '../words/index.ts';
import type { Change } from './changes.ts';
import type { JobDoc } from './job.ts';

/** As much of a job as says what it is made for. */
export type MadeFor = Pick<JobDoc, 'sheet' | 'variant' | 'edition'>;

const variantsOf = ({ variants }: Target) => [null, ...variants.map(({ id }) => id)];

const has = (sheet: Target, variant: string | null) => variantsOf(sheet).includes(variant);

/** All that a sheet says of the files that are made for it: two that say the same are made for alike. */
function meaning(sheet: Target, variant: string | null): string {
  const { naming, lists, packs, places = null, blanks, ...edition } = withVariant(sheet, variant);
  return JSON.stringify([askedBy(edition), naming, lists, packs, places, blanks]);
}

/** The variant of a sheet that means what a variant of another edition of it means; the one of the same id if that does. */
function sameIn(sheet: Target, other: Target, variant: string | null): string | null | undefined {
  const meant = meaning(other, variant);
  const candidates = [variant, ...variantsOf(sheet)].filter((id) => has(sheet, id));
  return candidates.find((id) => meaning(sheet, id) === meant);
}

/**
 * What a job is made for, in the newest edition of its sheet that means the same: there it stays. A job that does not say its
 * edition is older than such statements, so it is of the oldest edition that has its variant. Sheets that do not ship have
 * no editions here.
 */
export function movedOn(job: MadeFor): MadeFor {
  const editions = editionsOf(job.sheet);
  const { edition = null } = job;
  const start = editions.findIndex((sheet) =>
    edition === null ? has(sheet, job.variant) : sheet.edition >= edition && has(sheet, job.variant),
  );
  let at = editions[start];
  if (!at) return { ...job, edition: edition ?? editions.at(-1)?.edition };
  let { variant } = job;
  for (const next of editions.slice(start + 1)) {
    const same = sameIn(next, at, variant);
    if (same === undefined) break;
    at = next;
    variant = same;
  }
  return { ...job, variant, edition: at.edition };
}

/** The present edition of a job's sheet, if the job has another one and it has not been said yet what changes; else null. */
export function newerEdition({ sheet, edition, offered }: MadeFor & Pick<JobDoc, 'offered'>): Target | null {
  const present = editionsOf(sheet).at(-1);
  return present && typeof edition === 'number' && Math.max(edition, offered ?? 0) < present.edition ? present : null;
}

/** The change by which a job takes an edition of its sheet: in its variant if there is one, without values that are asked no more. */
export function changeToEdition({ variant, values }: Pick<JobDoc, 'variant' | 'values'>, sheet: Target): Change {
  const kept = has(sheet, variant) ? variant : null;
  const asked = new Set(withVariant(sheet, kept).blanks.map(({ id }) => id));
  const lost = Object.keys(values).filter((id) => !asked.has(id));
  return {
    edition: sheet.edition,
    offered: null,
    variant: kept,
    ...Object.fromEntries(lost.map((id) => [`values/${id}`, null])),
  };
}

const verb = ({ advised }: Requirement) => (advised ? 'advises' : 'asks for');

/** One line for each key at which two lists differ. */
function lines<T>(
  before: ReadonlyMap<string, T>,
  after: ReadonlyMap<string, T>,
  words: (was: T | undefined, is: T | undefined) => string | null,
): readonly string[] {
  return [...new Set([...before.keys(), ...after.keys()])].flatMap((key) => {
    const [was, is] = [before.get(key), after.get(key)];
    // The same under another key is the same.
    const text = (part: T | undefined) => JSON.stringify(part, (name, value) => (name === 'key' ? undefined : value));
    return text(was) === text(is) ? [] : (words(was, is) ?? []);
  });
}

const byKey = <T extends { readonly key: string }>(parts: readonly T[]) =>
  new Map(parts.map((part) => [part.key, part]));

function requirementLine(was: Requirement | undefined, is: Requirement | undefined): string | null {
  if (!is) return was ? `It no longer ${verb(was)} ${requirementText(was)}.` : null;
  if (!was) return `It ${verb(is)} ${requirementText(is)}.`;
  const [before, after] = [kindOf(was).wanted(was), kindOf(is).wanted(is)];
  if (before === after)
    return `It ${is.advised ? 'only advises' : verb(is)} ${requirementText(is)}${is.advised ? '' : ', and advised it'}.`;
  return `It ${verb(is)} ${requirementText(is)}, no longer ${before}.`;
}

/** What is asked, by keys; what is asked under another key of the same kind, and nothing else of that kind, under that key. */
function alike(asked: readonly Requirement[], others: readonly Requirement[]): ReadonlyMap<string, Requirement> {
  const only = (all: readonly Requirement[], kind: string) => {
    const [first, ...more] = all.filter((entry) => entry.kind === kind);
    return more.length === 0 ? first : undefined;
  };
  return new Map(
    asked.map((entry) => {
      const other = only(asked, entry.kind) && only(others, entry.kind);
      return [other?.key ?? entry.key, entry];
    }),
  );
}

/** What a trait says that no requirement says as well. */
const behaviours = ({ player }: Target) =>
  new Map(
    traitsOf(player)
      .filter(({ trait }) => impliedBy(player, trait.id).length === 0)
      .map(({ trait, value }) => [trait.id, trait.words(value)]),
  );

/**
 * What is different in another edition of a sheet, a sentence each.
 * @param from the sheet in a variant, with its blanks
 * @param to the other edition in the variant that would be taken
 */
export function whatChanges(from: Target, to: Target): readonly string[] {
  const questions = ({ blanks }: Target) =>
    new Map(
      blanks.map(({ id, question, usual }) => [
        id,
        { question, usual: typeof usual === 'number' ? formatCount(usual) : usual },
      ]),
    );
  return [
    ...lines(byKey(askedBy(from)), alike(askedBy(to), askedBy(from)), requirementLine),
    ...lines(questions(from), questions(to), (was, is) => {
      if (!is) return `It no longer has to know: ${was?.question}`;
      return `It has to know: ${is.question} ${is.usual} is taken until you say otherwise.`;
    }),
    ...lines(byKey(from.lists), byKey(to.lists), (was, is) =>
      is
        ? `The list ${is.path} is written ${was ? 'in another way' : 'as well'}.`
        : `The list ${was?.path} is not written.`,
    ),
    ...lines(behaviours(from), behaviours(to), (was, is) =>
      is ? `The device ${is}.` : `It is not known whether the device ${was}.`,
    ),
  ];
}
