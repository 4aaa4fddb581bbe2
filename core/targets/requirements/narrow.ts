import { hertz, type Rate } from '../../numbers/index.ts';

/** Those of one list that another has too, in the order of the first; null if there are none. */
export function inBoth<T>(
  a: readonly T[],
  b: readonly T[],
  nameOf: (entry: T) => unknown = (entry) => entry,
): T[] | null {
  const names = new Set(b.map(nameOf));
  const both = a.filter((entry) => names.has(nameOf(entry)));
  return both.length > 0 ? both : null;
}

/** A range of numbers, open where an end is left out. */
interface Range {
  readonly least?: number | undefined;
  readonly most?: number | undefined;
}

/** The numbers that are in both ranges; null if there are none. */
export function rangeOfBoth(a: Range, b: Range): Range | null {
  const least = Math.max(a.least ?? Number.NEGATIVE_INFINITY, b.least ?? Number.NEGATIVE_INFINITY);
  const most = Math.min(a.most ?? Number.POSITIVE_INFINITY, b.most ?? Number.POSITIVE_INFINITY);
  if (least > most) return null;
  return { ...(Number.isFinite(least) ? { least } : {}), ...(Number.isFinite(most) ? { most } : {}) };
}

const isIn = ({ least, most }: Range, value: number): boolean =>
  value >= (least ?? Number.NEGATIVE_INFINITY) && value <= (most ?? Number.POSITIVE_INFINITY);

/** One of two requirements that have a list of choices, with those choices that both have. */
export function narrowChoices<R extends { readonly anyOf: readonly unknown[] }>(a: R, b: R): R | null {
  const anyOf = inBoth(a.anyOf, b.anyOf);
  return anyOf && { ...a, anyOf };
}

/** One of two requirements that have a least and a greatest number, with what both allow. */
export function narrowRange<R extends Range>(a: R, b: R): R | null {
  const range = rangeOfBoth(a, b);
  return range && { ...a, ...range };
}

/** One of two requirements that have either some rates or a range of them, with the rates that both allow. */
export function narrowRates<R extends Range & { readonly kind: string; readonly anyOf?: readonly Rate[] | undefined }>(
  a: R,
  b: R,
): R | null {
  const range = rangeOfBoth(a, b);
  if (!range) return null;
  if (!a.anyOf && !b.anyOf) return { ...a, ...range };
  const listed = a.anyOf && b.anyOf ? inBoth(a.anyOf, b.anyOf, hertz) : (a.anyOf ?? b.anyOf);
  const anyOf = listed?.filter((rate) => isIn(range, hertz(rate))) ?? [];
  const { least: _, most: __, ...rest } = a;
  return anyOf.length > 0 ? ({ ...rest, anyOf } as unknown as R) : null;
}
