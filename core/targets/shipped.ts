import { nearestName } from '../forms/index.ts';
import { InputError, shortened } from '../words/index.ts';
import { formerSheets } from './former/list.ts';
import { targets } from './sheets/list.ts';
import type { Target } from './target.ts';

/** The editions of a sheet that ships, as far as they are kept, the oldest first; none of any other sheet. */
export const editionsOf = (id: string): readonly Target[] =>
  [...formerSheets, ...targets].filter((sheet) => sheet.id === id);

/**
 * A sheet that ships.
 * @param edition which edition; the present one if none is named. One that is not kept asked what the next one asks.
 * @throws InputError with code `unknown-target`, or `newer-format` for an edition that is not here yet
 */
export function targetOf(id: string, edition?: number | null): Target {
  const editions = editionsOf(id);
  const present = editions.at(-1);
  if (!present) {
    const known = targets.map((entry) => entry.id);
    const near = nearestName(id, known);
    throw new InputError(
      'unknown-target',
      `There is no target "${shortened(id, 80)}"${near ? `, perhaps ${near}` : ''}; choose one of: ${known.join(', ')}.`,
    );
  }
  if (edition === null || edition === undefined) return present;
  const found = editions.find((sheet) => sheet.edition >= edition);
  if (found) return found;
  const what = `${present.name}: edition ${edition} is asked for, and this Tambur has edition ${present.edition}`;
  throw new InputError('newer-format', `${what}; use a newer Tambur, or name that one.`);
}
