/** An object as JSON has it. */
export type Json = Readonly<Record<string, unknown>>;

export const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
