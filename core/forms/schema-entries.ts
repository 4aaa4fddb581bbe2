import { distance } from 'fastest-levenshtein';

/** What there is to see of a schema of Valibot, as far as it is looked at here. */
interface SchemaShape {
  readonly type?: string;
  readonly entries?: Readonly<Record<string, unknown>>;
  readonly options?: readonly unknown[];
  readonly wrapped?: unknown;
  readonly item?: unknown;
  readonly pipe?: readonly unknown[];
  readonly requirement?: unknown;
  readonly message?: unknown;
}

/** An entry of a document: its path, and what it takes in words. */
export interface SchemaEntry {
  readonly path: readonly string[];
  readonly words: string;
}

const plain = (schema: unknown): SchemaShape => {
  const seen = schema as SchemaShape;
  return seen.wrapped === undefined ? seen : plain(seen.wrapped);
};

/** All that is asked of a value, one after the other; what is piped may be piped itself. */
const stepsOf = (schema: unknown): readonly SchemaShape[] =>
  ((schema as SchemaShape).pipe ?? []).flatMap((step) => [
    step as SchemaShape,
    ...((step as SchemaShape) === schema ? [] : stepsOf(step)),
  ]);

/** What a single value may be. */
function valueWords(schema: unknown): string {
  const seen = plain(schema);
  const steps = stepsOf(seen);
  const stepOf = (type: string) => steps.find((step) => step.type === type);
  const said = (stepOf('description') as { readonly description?: string } | undefined)?.description;
  if (said !== undefined) return said;
  if (seen.options && seen.type === 'picklist') return seen.options.join(', ');
  if (seen.options) return seen.options.map(valueWords).join('; or ');
  if (seen.type === 'boolean') return 'true or false';
  if (seen.type === 'number') {
    const [least, most] = [stepOf('min_value')?.requirement, stepOf('max_value')?.requirement];
    const kind = stepOf('integer') ? 'a whole number' : 'a number';
    if (least === undefined) return kind;
    return most === undefined ? `${kind}, ${least} or more` : `${kind}, ${least} to ${most}`;
  }
  if (seen.type === 'array') return `${valueWords(seen.item)}; several with commas between them`;
  const message = stepOf('regex')?.message ?? stepOf('check')?.message;
  return typeof message === 'string' ? message : 'a text';
}

/** Every entry below a schema of an object, in its order. */
export function schemaEntries(schema: unknown, path: readonly string[] = []): readonly SchemaEntry[] {
  const seen = plain(schema);
  if (seen.entries) return Object.entries(seen.entries).flatMap(([key, inner]) => schemaEntries(inner, [...path, key]));
  const inner = seen.type === 'union' ? (seen.options ?? []).filter((option) => plain(option).entries) : [];
  const others = seen.type === 'union' ? (seen.options ?? []).filter((option) => !plain(option).entries) : [];
  if (inner.length === 0) return [{ path, words: valueWords(schema) }];
  return [
    ...others.map((option) => ({ path, words: valueWords(option) })),
    ...inner.flatMap((option) => schemaEntries(option, path)),
  ];
}

/** Names of the entries that an object at some place may have; none where nothing is known of it. */
export function namesAt(schema: unknown, path: readonly (string | number)[]): readonly string[] {
  const seen = plain(schema);
  const [key, ...rest] = path;
  if (seen.entries && key === undefined) return Object.keys(seen.entries);
  if (seen.entries) return key !== undefined && key in seen.entries ? namesAt(seen.entries[key], rest) : [];
  if (seen.type === 'array' || seen.type === 'record') return namesAt(seen.item ?? {}, rest);
  return (seen.options ?? []).flatMap((option) => namesAt(option, path));
}

/** So many of a name's letters may be others in the one that was meant. */
const LIKE = 0.4;

/** The name of those that there are which is most like one that there is not; null if none is like it. */
export function nearestName(name: string, known: readonly string[]): string | null {
  const wanted = name.toLowerCase();
  if (wanted === '' || known.length === 0) return null;
  // Whoever knows how a name begins, or what is in it, means that one.
  const begun = known.find((entry) => entry.toLowerCase().startsWith(wanted));
  const within = known.find((entry) => entry.toLowerCase().includes(wanted));
  if (begun ?? within) return begun ?? within ?? null;
  const near = known.map((entry) => ({ entry, away: distance(wanted, entry.toLowerCase()) }));
  const [best] = near.sort((x, y) => x.away - y.away);
  return best && best.away <= Math.ceil(LIKE * wanted.length) ? best.entry : null;
}

/** Names are listed where there are no more than so many. */
const MOST_LISTED = 12;

/** Text after an unknown name: "; there are bits, dither: perhaps dither". */
export function insteadOf(name: string, known: readonly string[]): string {
  const near = nearestName(name, known);
  const perhaps = near === null ? '' : `perhaps ${near}`;
  if (known.length === 0 || known.length > MOST_LISTED) return perhaps && `; ${perhaps}`;
  return `; there are ${known.join(', ')}${perhaps && `: ${perhaps}`}`;
}

/** The message of an issue, without the library's own words where an entry is one that there is not. */
export function issueWords(
  issue: { readonly expected: string | null; readonly message: string },
  schema: unknown,
  path: readonly (string | number)[],
): string {
  const name = path.at(-1);
  if (issue.expected !== 'never' || name === undefined) return issue.message;
  return `there is no such entry${insteadOf(String(name), namesAt(schema, path.slice(0, -1)))}`;
}
