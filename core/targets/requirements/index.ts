import * as v from 'valibot';
import { usualIn } from '../../forms/index.ts';
import { kinds } from './list.ts';
import type { FileRequirementKind, SetRequirementKind } from './requirement.ts';

export { fitsLayout } from './byte-layout.ts';
export type { Answer, Demands, SetMember, SetSubject, Subject } from './requirement.ts';

type SchemaOf<K> = K extends { schema: v.GenericSchema<infer R> } ? R : never;

/** One line of a target sheet. */
export type Requirement = SchemaOf<(typeof kinds)[number]>;

const anyKind = v.variant(
  'kind',
  kinds.map(({ schema }) => schema) as unknown as [
    v.ObjectSchema<{ readonly kind: v.LiteralSchema<string, undefined> }, undefined>,
  ],
) as unknown as v.GenericSchema<Requirement>;

/** True for a requirement of some kind with none of its entries: it asks for nothing. */
export function asksNothing(requirement: unknown): boolean {
  const read = v.safeParse(anyKind, requirement);
  return read.success && kindOf(read.output).wanted(read.output) === '';
}

export const requirementSchema = v.pipe(
  anyKind,
  v.check(
    (requirement) => !asksNothing(requirement),
    'it asks for nothing; fill in one of its entries, or leave it out',
  ),
) as v.GenericSchema<Requirement>;

type Kind = FileRequirementKind<Requirement> | SetRequirementKind<Requirement>;

const byName = new Map<string, Kind>(kinds.map((kind) => [kind.kind, kind as unknown as Kind]));

/** Every kind, in the order in which a sheet is best read. */
export const requirementKinds: readonly Kind[] = [...byName.values()];

/** A requirement as a form begins with it. */
export const newRequirement = ({ schema, isUsuallyAdvised }: Kind, key: string): Requirement => ({
  ...usualIn(schema),
  ...(isUsuallyAdvised ? { advised: true } : {}),
  key,
});

/** The kind that `requirement` is of. */
export function kindOf(requirement: Requirement): Kind {
  const kind = byName.get(requirement.kind);
  if (!kind) throw new RangeError(`no kind of requirement "${requirement.kind}"`);
  return kind;
}

/** A requirement as a clause: "sample rate: 8 000 Hz". */
export function requirementText(requirement: Requirement): string {
  const kind = kindOf(requirement);
  return `${kind.title}: ${kind.wanted(requirement)}`;
}

/** The station that mends what does not meet a kind of requirement; null if none does. */
export function mendingStation(name: string): string | null {
  const kind = byName.get(name);
  return kind?.scope === 'file' ? (kind.station ?? null) : null;
}
