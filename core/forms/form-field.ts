import * as v from 'valibot';

/** A choice as a form offers it. */
interface Option {
  readonly value: string;
  readonly label: string;
}

/** Label, unit and first value of a form's entry. */
export interface InForm {
  readonly label: string;
  readonly unit?: string;
  /** What the entry starts as; left out if it starts as not said. */
  readonly usual?: unknown;
  /** What can be chosen. */
  readonly options?: () => readonly Option[];
}

/** One entry of a document as a form asks for it. */
export interface FormField extends Omit<InForm, 'usual'> {
  /** Its key in what it belongs to; empty if that is the value itself. */
  readonly key: string;
  readonly type: 'number' | 'text' | 'flag' | 'list' | 'rates' | 'choice' | 'choices';
  readonly isOptional: boolean;
}

/** What is seen here of a schema of Valibot. */
interface SchemaShape extends v.GenericSchema {
  readonly entries?: Readonly<Record<string, SchemaShape>>;
  readonly wrapped?: SchemaShape;
  readonly item?: SchemaShape;
  readonly literal?: unknown;
}

/** A schema with what forms say of it. */
export const inForm = <const S extends v.GenericSchema>(schema: S, form: InForm) =>
  v.pipe(schema, v.metadata({ form }));

/** One of some words, each of which says what it stands for. */
export const oneOf = <W extends Readonly<Record<string, string>>>(words: W) =>
  v.pipe(
    v.picklist(Object.keys(words) as (keyof W & string)[]),
    v.metadata({ options: () => Object.entries(words).map(([value, label]) => ({ value, label })) }),
  );

const unwrapped = (schema: SchemaShape): SchemaShape => (schema.wrapped ? unwrapped(schema.wrapped) : schema);

/** What forms say of an entry; undefined if they do not ask for it. */
function formOf(schema: SchemaShape): InForm | undefined {
  const { form, options } = v.getMetadata(unwrapped(schema)) as { form?: InForm; options?: InForm['options'] };
  return form && { ...(options ? { options } : {}), ...form };
}

function typeOf(schema: SchemaShape, hasOptions: boolean): FormField['type'] {
  const { type, item } = unwrapped(schema);
  if (type === 'array') return hasOptions ? 'choices' : item?.type === 'union' ? 'rates' : 'list';
  if (type === 'boolean') return 'flag';
  if (type === 'number') return 'number';
  return hasOptions ? 'choice' : 'text';
}

/** Entries of an object by their keys; a value that is none is an entry with an empty key. */
const entriesOf = (schema: SchemaShape): [string, SchemaShape][] => Object.entries(schema.entries ?? { '': schema });

/** Fields of a form for a value, in the order of its schema. */
export const formFields = (schema: v.GenericSchema): readonly FormField[] =>
  entriesOf(schema as SchemaShape).flatMap(([key, entry]) => {
    const form = formOf(entry);
    if (!form) return [];
    const { usual: _, ...said } = form;
    return [{ key, ...said, type: typeOf(entry, form.options !== undefined), isOptional: entry.type === 'optional' }];
  });

/** The value with which a form starts. */
export function usualIn<V>(schema: v.GenericSchema<V>): V {
  const usual = entriesOf(schema as unknown as SchemaShape).flatMap(([key, entry]) => {
    const value = entry.type === 'literal' ? entry.literal : formOf(entry)?.usual;
    return value === undefined ? [] : [[key, value]];
  });
  const [only] = usual;
  return (only?.[0] === '' ? only[1] : Object.fromEntries(usual)) as V;
}
