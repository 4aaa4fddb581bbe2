import { findNodeAtLocation, type ParseError, parse, parseTree, printParseErrorCode } from 'jsonc-parser';
import * as v from 'valibot';
import { InputError } from '../audio/index.ts';
import { type Target, targetSchema } from './target.ts';

/** Line of a place in a text, from 1. */
const lineAt = (text: string, offset: number): number => text.slice(0, offset).split('\n').length;

/** Codes of the parser as words: "CommaExpected" becomes "comma expected". */
const inWords = (code: string): string => code.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();

const bad = (name: string, where: string, what: string) =>
  new InputError('bad-sheet', `${name}, ${where}: ${what}; correct it and try again.`);

/** Of the alternatives of a union the one that went furthest into the value tells most. */
function deepest(issue: v.BaseIssue<unknown>): { readonly path: (string | number)[]; readonly message: string } {
  const own = (issue.path ?? []).map(({ key }) => key as string | number);
  const inner = (issue.issues ?? []).map(deepest).sort((a, b) => b.path.length - a.path.length)[0];
  if (!inner || inner.path.length === 0) return { path: own, message: issue.message };
  return { path: [...own, ...inner.path], message: inner.message };
}

/**
 * A target sheet from its file, JSON as the published schema describes it.
 * @param name what the file is called, for refusals
 * @throws InputError with code `bad-sheet` naming the line that is wrong
 */
export function readSheet(text: string, name: string): Target {
  const errors: ParseError[] = [];
  const value: unknown = parse(text, errors, { allowTrailingComma: false, disallowComments: true });
  const [error] = errors;
  if (error)
    throw bad(
      name,
      `line ${lineAt(text, error.offset)}`,
      `this is not JSON: ${inWords(printParseErrorCode(error.error))}`,
    );
  const result = v.safeParse(targetSchema, value);
  if (result.success) return result.output;
  const { path, message } = deepest(result.issues[0]);
  const tree = parseTree(text);
  // The value itself, or what is there of the way to it.
  let node = tree;
  for (let length = path.length; length > 0; length--) {
    const found = tree && findNodeAtLocation(tree, path.slice(0, length));
    if (found) {
      node = found;
      break;
    }
  }
  throw bad(name, `line ${lineAt(text, node?.offset ?? 0)}`, `${path.join('.') || 'the sheet'}: ${message}`);
}

/** A sheet as the text of its file. */
export const sheetText = (target: Target): string => `${JSON.stringify(target, null, 2)}\n`;
