import * as v from 'valibot';
import { followingFrom, sheetSchema, type Target, withVariant } from '../targets/index.ts';
import { isObject, type Json } from './json.ts';

/** Keys of what follows from the player of a sheet that writes no such requirement. */
const unasked = ({ player, requirements }: Target): readonly string[] =>
  followingFrom(player)
    .requirements.filter(({ key, kind }) => !requirements.some((entry) => entry.key === key && entry.kind === kind))
    .map(({ key }) => key);

/**
 * A sheet of the time when it had to write whatever it asked goes on asking that and no more: it says of all else that follows
 * from its player that it does not ask for it. One that writes nothing asks for all that follows.
 */
export function sheetThatAsks(document: Json): Json {
  if ('without' in document) return document;
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
