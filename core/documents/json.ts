/** An object as JSON has it. */
export type Json = Readonly<Record<string, unknown>>;

export const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** The objects in a list; none of what is no list. */
export const objectsIn = (value: unknown): readonly Json[] => (Array.isArray(value) ? value.filter(isObject) : []);
