import * as v from 'valibot';
import { bars } from './bars.ts';
import { channels } from './channels.ts';
import { container } from './container.ts';
import { duration } from './duration.ts';
import { encoding } from './encoding.ts';
import { extension } from './extension.ts';
import { fileSize } from './file-size.ts';
import { frames } from './frames.ts';
import { name } from './name.ts';
import { peak } from './peak.ts';
import type { FileRequirementKind, SetRequirementKind } from './requirement.ts';
import { sampleRate } from './sample-rate.ts';
import { setSize } from './set-size.ts';
import { tags } from './tags.ts';

export type { Answer, Demands, SetMember, Subject } from './requirement.ts';

/** Every kind of requirement. A new one: its file, and its line here. */
const kinds = [
  container,
  encoding,
  sampleRate,
  channels,
  frames,
  duration,
  bars,
  fileSize,
  peak,
  tags,
  extension,
  name,
  setSize,
] as const;

type SchemaOf<K> = K extends { schema: v.GenericSchema<infer R> } ? R : never;

/** One line of a target sheet. */
export type Requirement = SchemaOf<(typeof kinds)[number]>;

export const requirementSchema: v.GenericSchema<Requirement> = v.union(
  kinds.map((kind): v.GenericSchema<Requirement> => kind.schema),
);

type Kind = FileRequirementKind<Requirement> | SetRequirementKind<Requirement>;

const byName = new Map<string, Kind>(kinds.map((kind) => [kind.kind, kind as unknown as Kind]));

/** The kind that `requirement` is of. */
export function kindOf(requirement: Requirement): Kind {
  const kind = byName.get(requirement.kind);
  if (!kind) throw new RangeError(`no kind of requirement "${requirement.kind}"`);
  return kind;
}
