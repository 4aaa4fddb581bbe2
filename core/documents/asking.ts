import * as v from 'valibot';
import { asksNothing, followingFrom, sheetSchema, type Target, withVariant } from '../targets/index.ts';
import { isObject, type Json, objectsIn } from './json.ts';

/** Keys of what follows from the player of a sheet that writes no such requirement. */
const unasked = ({ player, requirements }: Target): readonly string[] =>
  followingFrom(player)
    .requirements.filter(({ key, kind }) => !requirements.some((entry) => entry.key === key && entry.kind === kind))
    .map(({ key }) => key);

const filled = (requirements: unknown): unknown =>
  Array.isArray(requirements) ? requirements.filter((entry) => !asksNothing(entry)) : requirements;

/** A sheet without requirements that ask for nothing, and without what refers to them. */
function withoutEmpty(document: Json): Json {
  const empty = new Set(objectsIn(document.requirements).flatMap((entry) => (asksNothing(entry) ? [entry.key] : [])));
  const variants = objectsIn(document.variants);
  if (
    empty.size === 0 &&
    !variants.some(({ replace }) => isObject(replace) && objectsIn(replace.requirements).some(asksNothing))
  )
    return document;
  const kept = (keys: unknown) => (Array.isArray(keys) ? keys.filter((key) => !empty.has(key)) : keys);
  return {
    ...document,
    requirements: filled(document.requirements),
    variants: variants.map((variant) => ({
      ...variant,
      without: kept(variant.without),
      replace: isObject(variant.replace)
        ? {
            ...variant.replace,
            ...('requirements' in variant.replace ? { requirements: filled(variant.replace.requirements) } : {}),
          }
        : variant.replace,
    })),
    blanks: objectsIn(document.blanks).filter(({ at }) => !objectsIn(at).some(({ key }) => empty.has(key))),
    evidence: objectsIn(document.evidence).map((entry) => ({ ...entry, keys: kept(entry.keys) })),
  };
}

/**
 * A sheet of the time when it had to write whatever it asked goes on asking that and no more: it says of all else that follows
 * from its player that it does not ask for it. One that writes nothing asks for all that follows.
 */
export function sheetThatAsks(given: Json): Json {
  if ('without' in given) return given;
  const document = withoutEmpty(given);
  const read = v.safeParse(sheetSchema, document);
  if (!read.success || read.output.requirements.length === 0) return document;
  const sheet = read.output;
  const without = unasked(sheet);
  const variants = sheet.variants.map((variant) => {
    const more = unasked(withVariant(sheet, variant.id)).filter((key) => !without.includes(key));
    return { ...variant, without: [...new Set([...variant.without, ...more])] };
  });
  return { ...document, without, variants };
}

/** A delivery whose sheet asks what it asked. */
export const deliveryThatAsks = (document: Json): Json =>
  isObject(document.sheet) ? { ...document, sheet: sheetThatAsks(document.sheet) } : document;
