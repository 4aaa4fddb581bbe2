import * as v from 'valibot';
import { impliedBy, type Player } from '../standin/index.ts';
import {
  asksNothing,
  kindOf,
  type Requirement,
  requirementKinds,
  requirementSchema,
  requirementText,
} from './requirements/index.ts';
import type { Target } from './target.ts';

/** As much of a sheet as says what it asks. */
export type Asking = Pick<Target, 'requirements'> & Partial<Pick<Target, 'player' | 'without'>>;

interface Following {
  /** One of each kind, its key the name of the kind. */
  readonly requirements: readonly Requirement[];
  /** What follows and cannot be asked, a sentence each. */
  readonly troubles: readonly string[];
}

function work(player: Player): Following {
  const byKind = new Map<string, Requirement>();
  const troubles: string[] = [];
  for (const entry of impliedBy(player)) {
    if (asksNothing({ key: entry.kind, ...entry })) continue;
    const { success, output: implied } = v.safeParse(requirementSchema, { key: entry.kind, ...entry });
    if (!success) {
      const title = requirementKinds.find(({ kind }) => kind === entry.kind)?.title ?? entry.kind;
      troubles.push(`What its player needs of the ${title} is more than a sheet can ask.`);
      continue;
    }
    const before = byKind.get(entry.kind);
    const both = before ? (kindOf(before).narrow?.(before, implied) ?? null) : implied;
    if (both) byKind.set(entry.kind, both);
    else if (before) {
      troubles.push(`Its player needs ${requirementText(before)}, and ${requirementText(implied)}: no file has both.`);
    }
  }
  return { requirements: [...byKind.values()], troubles };
}

const known = new WeakMap<Player, Following>();

/** What follows from what a device does: the one bridge between its player and what its sheet asks. */
export function followingFrom(player: Player): Following {
  const following = known.get(player) ?? work(player);
  known.set(player, following);
  return following;
}

const place = new Map<string, number>(requirementKinds.map(({ kind }, i) => [kind, i]));

/**
 * All that a sheet asks of files, in the order of the kinds: what follows from its player, but for what it says that it does
 * not ask, and what it writes itself, which takes the place of what follows under the same key.
 */
export function askedBy({ requirements, player = {}, without = [] }: Asking): readonly Requirement[] {
  const written = new Set(requirements.map(({ key }) => key));
  const following = followingFrom(player).requirements.filter(({ key }) => !written.has(key) && !without.includes(key));
  return [...following, ...requirements].toSorted((a, b) => (place.get(a.kind) ?? 0) - (place.get(b.kind) ?? 0));
}

/** True if all that meets `asked` meets `implied` too. */
function covers(asked: Requirement, implied: Requirement): boolean {
  const { narrow } = kindOf(implied);
  const same = (a: Requirement | null | undefined, b: Requirement | null | undefined) =>
    JSON.stringify(a) === JSON.stringify(b);
  return same(narrow?.(asked, implied), narrow?.(asked, asked));
}

/** Where a sheet asks for less than its player needs, and where its player needs what no file has: one sentence each. */
export function disagreements({ player = {}, requirements, without = [] }: Asking): readonly string[] {
  const following = followingFrom(player);
  const looser = following.requirements.flatMap((implied) => {
    const kind = kindOf(implied);
    const isWritten = requirements.some(({ key }) => key === implied.key);
    if (!isWritten && !without.includes(implied.key)) return [];
    const asked = requirements.filter((entry) => entry.kind === implied.kind && !entry.advised);
    if (asked.some((entry) => covers(entry, implied))) return [];
    const instead = asked.length
      ? `the sheet asks for ${asked.map((entry) => kind.wanted(entry)).join('; ')}`
      : 'the sheet does not ask for that';
    return [`Its player needs ${requirementText(implied)}; ${instead}.`];
  });
  return [...looser, ...following.troubles];
}
