import { findNodeAtLocation, parseTree, printParseErrorCode, visit } from 'jsonc-parser';
import * as v from 'valibot';
import { notFinite } from '../audio/index.ts';
import { issueWords } from '../forms/index.ts';
import { type Target, targetSchema } from '../targets/index.ts';
import { InputError, shortened } from '../words/index.ts';
import { BUDGETS, excessOf, excessOfValue } from './budget.ts';
import { type DeliveryRecord, deliverySchema } from './delivery.ts';
import { MOVED_FROM_1 } from './from-1.ts';
import { type JobDoc, jobSchema } from './job.ts';
import { isObject } from './json.ts';
import { type Manifest, manifestSchema } from './manifest.ts';
import { type DocumentKind, formatOf, upcast } from './upcast.ts';

interface Documents {
  sheet: Target;
  job: JobDoc;
  delivery: DeliveryRecord;
  manifest: Manifest;
}

const schemas: { readonly [K in DocumentKind]: v.GenericSchema<unknown, Documents[K]> } = {
  sheet: targetSchema as v.GenericSchema<unknown, Target>,
  job: jobSchema as v.GenericSchema<unknown, JobDoc>,
  delivery: deliverySchema as v.GenericSchema<unknown, DeliveryRecord>,
  manifest: manifestSchema as v.GenericSchema<unknown, Manifest>,
};

type Path = readonly (string | number)[];

/** Of the alternatives of a union the one that went furthest into the value tells most. */
function deepest(issue: v.BaseIssue<unknown>): { readonly path: Path; readonly issue: v.BaseIssue<unknown> } {
  const own = (issue.path ?? []).map(({ key }) => key as string | number);
  const inner = (issue.issues ?? []).map(deepest).sort((a, b) => b.path.length - a.path.length)[0];
  if (!inner || inner.path.length === 0) return { path: own, issue };
  return { path: [...own, ...inner.path], issue: inner.issue };
}

const bad = (name: string, where: string, what: string) =>
  new InputError('bad-document', `${name}, ${where}: ${shortened(what, 400)}; correct it and try again.`);

type Checked<T> = { readonly document: T } | { readonly path: Path; readonly message: string };

/** A document of the present format, or what is wrong with it and where. */
function checked<K extends DocumentKind>(kind: K, value: unknown): Checked<Documents[K]> {
  if (!isObject(value)) return { path: [], message: 'it is not an object of JSON' };
  const endless = notFinite(value);
  if (endless !== null) return { path: endless.split('.'), message: 'it is not a number' };
  // The first fault is enough: what comes from outside may have a million of them.
  const result = v.safeParse(schemas[kind], value, { abortEarly: true });
  if (result.success) return { document: result.output as Documents[K] };
  const { path, issue } = deepest(result.issues[0]);
  return { path, message: issueWords(issue, schemas[kind], path) };
}

/**
 * A document that comes from anywhere as a value: brought to the present format and checked.
 * @param name what it is called, for refusals
 * @throws InputError with code `bad-document` naming the entry, or `newer-format`
 */
export function readDocument<K extends DocumentKind>(kind: K, value: unknown, name: string): Documents[K] {
  const excess = excessOfValue(value, BUDGETS[kind]);
  if (excess !== null) throw bad(name, 'the whole', excess);
  const answer = checked(kind, upcast(kind, value, name));
  if ('document' in answer) return answer.document;
  throw bad(name, answer.path.join('.') || 'the whole', answer.message);
}

/** Line of a place in a text, from 1. */
const lineAt = (text: string, offset: number): number => text.slice(0, offset).split('\n').length;

/** Codes of the parser as words: "CommaExpected" becomes "comma expected". */
const inWords = (code: string): string => code.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();

interface JsonFault {
  readonly message: string;
  readonly offset: number;
}

/** The first place at which a text is not JSON; null if it is. */
function firstFault(text: string): JsonFault | null {
  let first: JsonFault | null = null;
  const stop = {};
  try {
    visit(
      text,
      {
        onError(error, offset) {
          first = { message: inWords(printParseErrorCode(error)), offset };
          throw stop;
        },
      },
      { allowTrailingComma: false, disallowComments: true },
    );
  } catch (thrown) {
    if (thrown !== stop) throw thrown;
  }
  return first;
}

/** @throws InputError with code `bad-document` naming the line if a text is not JSON */
function parseJson(text: string, name: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    const { message, offset } = firstFault(text) ?? { message: error.message, offset: 0 };
    throw bad(name, `line ${lineAt(text, offset)}`, `this is not JSON: ${message}`);
  }
}

/** Where in a text an entry stands, or what is there of the way to it. */
function offsetOf(text: string, path: Path, isFormat1: boolean): number {
  const tree = parseTree(text);
  const [head = '', index, ...rest] = path;
  const before = isFormat1 ? MOVED_FROM_1[String(head)] : undefined;
  // What is the first of several now stood alone then.
  const place = before ? [...before, ...(typeof index === 'number' ? rest : [index ?? '', ...rest])] : path;
  for (let length = place.length; length > 0; length--) {
    const found = tree && findNodeAtLocation(tree, place.slice(0, length));
    if (found) return found.offset;
  }
  return tree?.offset ?? 0;
}

/**
 * A document from the text of its file, JSON as the published schemas describe it.
 * @param name what the file is called, for refusals
 * @throws InputError with code `bad-document` naming the line and the entry, or `newer-format`
 */
export function parseDocument<K extends DocumentKind>(kind: K, written: string, name: string): Documents[K] {
  // A mark of the byte order is no part of JSON, but some editors write one.
  const text = written.replace(/^\uFEFF/, '');
  const excess = excessOf(text, BUDGETS[kind]);
  if (excess) throw bad(name, `line ${lineAt(text, excess.offset)}`, excess.message);
  const value = parseJson(text, name);
  const answer = checked(kind, upcast(kind, value, name));
  if ('document' in answer) return answer.document;
  const { path, message } = answer;
  const line = lineAt(text, offsetOf(text, path, isObject(value) && formatOf(value) === 1));
  throw bad(name, `line ${line}`, `${path.join('.') || `the ${kind}`}: ${message}`);
}

/** A target sheet from its file. */
export const readSheet = (text: string, name: string): Target => parseDocument('sheet', text, name);

/** A sheet as the text of its file, its entries in the order of the schema. */
export const sheetText = (target: Target): string => `${JSON.stringify(v.parse(targetSchema, target), null, 2)}\n`;
