import { FORMAT } from '../targets/index.ts';
import { InputError } from '../words/index.ts';
import { deliveryThatAsks, sheetThatAsks } from './asking.ts';
import { deliveryFrom1, jobFrom1, sheetFrom1 } from './from-1.ts';
import { isObject, type Json } from './json.ts';

/** Documents that are written to disk, sent and passed on. */
export type DocumentKind = 'sheet' | 'job' | 'delivery' | 'manifest';

/**
 * Brings a document of one format to the next. What is not shaped as that format has it is handed on as it is: the schema
 * of the present format says what is wrong with it.
 */
type Upcaster = (document: Json) => Json;

/** For each kind the steps from each format to the next, the first from format 1. A new format: one more in each row. */
const upcasters: Readonly<Record<DocumentKind, readonly Upcaster[]>> = {
  sheet: [sheetFrom1],
  job: [jobFrom1],
  delivery: [deliveryFrom1],
  // There were none before format 2.
  manifest: [(document) => document],
};

/** What documents of the present format may still lack. */
const completed: Readonly<Record<DocumentKind, Upcaster>> = {
  sheet: sheetThatAsks,
  job: (document) => document,
  delivery: deliveryThatAsks,
  manifest: (document) => document,
};

/** The format of a document; those of the first do not say it. */
export const formatOf = (document: Json): unknown => document.format ?? 1;

/**
 * A document in the present format, whichever it came in; its entries are checked by its schema afterwards.
 * @param name what it is called, for refusals
 * @throws InputError with code `newer-format`
 */
export function upcast(kind: DocumentKind, value: unknown, name: string): unknown {
  if (!isObject(value)) return value;
  const format = formatOf(value);
  if (typeof format !== 'number' || !Number.isInteger(format) || format < 1) return value;
  if (format > FORMAT) {
    throw new InputError(
      'newer-format',
      `${name} is of format ${format}, and this Tambur reads up to format ${FORMAT}; use a newer Tambur.`,
    );
  }
  return completed[kind](upcasters[kind].slice(format - 1).reduce((document, step) => step(document), value));
}
