import * as v from 'valibot';
import { doubled } from '../forms/index.ts';
import { allTraits } from '../standin/index.ts';
import { InputError } from '../words/index.ts';
import { followingFrom } from './asked.ts';
import { demandsOf } from './demands.ts';
import { filledIn, KEYED, partsOf, sheetFor, withBlank } from './editions.ts';
import { pathTo } from './parts.ts';
import { sheetSchema, type Target } from './target.ts';
import { unwritable } from './writable.ts';

/** Every edition of a sheet: itself, and its variants, each with the usual values in its blanks. */
const editionsOf = (sheet: Target): readonly Target[] =>
  [null, ...sheet.variants.map(({ id }) => id)].map((id) => filledIn(sheetFor(sheet, id, {}), 'clip', {}));

/** Names that parts of a sheet have without a key. */
const OWN_NAMES = [...allTraits.map(({ id }) => id), 'places', 'face'];

/** What is wrong with how the parts of a sheet refer to each other, and where; null if all is well. */
function strayReference(
  sheet: Target,
): { readonly message: string; readonly path: readonly (string | number)[] } | null {
  const keys = KEYED.flatMap((list) => sheet[list].map(({ key }, i) => ({ key, path: [list, i, 'key'] })));
  const twice = doubled(keys.map(({ key }) => key));
  const second = keys.findLast(({ key }) => key === twice);
  if (second) return { message: `two parts have the key "${twice}"`, path: second.path };
  const taken = keys.find(({ key }) => OWN_NAMES.includes(key));
  if (taken) return { message: `the key "${taken.key}" is the name of another part`, path: taken.path };
  for (const list of ['variants', 'blanks', 'evidence'] as const) {
    const same = doubled(sheet[list].map(({ id }) => id));
    const at = sheet[list].findLastIndex(({ id }) => id === same);
    if (same !== undefined) return { message: `two ${list} have the same id "${same}"`, path: [list, at, 'id'] };
  }
  const parts = partsOf(sheet);
  const clash = followingFrom(sheet.player).requirements.find(({ key, kind }) =>
    sheet.requirements.some((entry) => entry.key === key && entry.kind !== kind && !sheet.without.includes(key)),
  );
  if (clash) {
    const at = sheet.requirements.findIndex(({ key }) => key === clash.key);
    return {
      message: `the key "${clash.key}" is that of what follows from its player`,
      path: ['requirements', at, 'key'],
    };
  }
  const noSuch = (key: string) => `the sheet has no part with the key "${key}"`;
  for (const [i, { replace, without }] of sheet.variants.entries()) {
    for (const list of KEYED) {
      const fresh = (replace[list] ?? []).map(({ key }) => key);
      const again = fresh.lastIndexOf(doubled(fresh) ?? '');
      const path = ['variants', i, 'replace', list, again, 'key'];
      if (again >= 0) return { message: `two parts have the key "${fresh[again]}"`, path };
    }
    const known = new Set([
      ...parts.keys(),
      ...followingFrom({ ...sheet.player, ...replace.player }).requirements.map(({ key }) => key),
    ]);
    const at = without.findIndex((key) => !known.has(key));
    if (at >= 0) return { message: noSuch(without[at] ?? ''), path: ['variants', i, 'without', at] };
  }
  for (const [i, { keys: spoken }] of sheet.evidence.entries()) {
    const at = spoken.findIndex((key) => !parts.has(key));
    if (at >= 0) return { message: noSuch(spoken[at] ?? ''), path: ['evidence', i, 'keys', at] };
  }
  for (const [i, blank] of sheet.blanks.entries()) {
    for (const [j, { key, pointer }] of blank.at.entries()) {
      const path = ['blanks', i, 'at', j];
      if (!parts.has(key)) return { message: noSuch(key), path: [...path, 'key'] };
      const isThere = withBlank(sheet, { ...blank, at: [{ key, pointer }] }, blank.usual);
      if (!isThere) return { message: `"${key}" has no entry ${pointer}`, path: [...path, 'pointer'] };
    }
  }
  return null;
}

/** A target sheet of the present format, as it comes from anywhere: of every edition a file can be written. */
export const targetSchema = v.pipe(
  sheetSchema,
  v.rawCheck(({ dataset, addIssue }) => {
    // Ids that there are not have been refused already.
    if (!dataset.typed || dataset.issues) return;
    const stray = strayReference(dataset.value);
    if (stray) return addIssue({ message: stray.message, path: pathTo(...stray.path) });
    try {
      for (const edition of editionsOf(dataset.value)) {
        const same = doubled(KEYED.flatMap((list) => edition[list].map(({ key }) => key)));
        if (same !== undefined) return addIssue({ message: `two parts of ${edition.name} have the key "${same}"` });
        const trouble = unwritable(demandsOf(edition));
        if (trouble !== null) return addIssue({ message: `no file can meet ${edition.name}: ${trouble}` });
      }
    } catch (error) {
      // The usual value of a blank does not fit its place.
      if (!(error instanceof InputError)) throw error;
      addIssue({ message: error.message });
    }
  }),
);
