import * as v from 'valibot';
import { bars } from './bars.ts';
import { bitDepth } from './bit-depth.ts';
import { bitRate } from './bit-rate.ts';
import { byteLayout } from './byte-layout.ts';
import { channels } from './channels.ts';
import { container } from './container.ts';
import { dcOffset } from './dc-offset.ts';
import { duration } from './duration.ts';
import { encoding } from './encoding.ts';
import { extension } from './extension.ts';
import { fileCount } from './file-count.ts';
import { fileSize } from './file-size.ts';
import { folder } from './folder.ts';
import { frames } from './frames.ts';
import { listFile } from './list-file.ts';
import { loudness } from './loudness.ts';
import { name } from './name.ts';
import { nothingElse } from './nothing-else.ts';
import { peak } from './peak.ts';
import type { FileRequirementKind, SetRequirementKind } from './requirement.ts';
import { sampleRate } from './sample-rate.ts';
import { setSize } from './set-size.ts';
import { silence } from './silence.ts';
import { stereoMode } from './stereo-mode.ts';
import { tags } from './tags.ts';
import { timerRate } from './timer-rate.ts';

export { fitsLayout } from './byte-layout.ts';
export type { Answer, Demands, Field, SetMember, SetSubject, Subject } from './requirement.ts';

/** Every kind of requirement. A new one: its file, and its line here. */
const kinds = [
  container,
  encoding,
  bitDepth,
  byteLayout,
  sampleRate,
  timerRate,
  channels,
  stereoMode,
  bitRate,
  frames,
  duration,
  bars,
  silence,
  fileSize,
  peak,
  loudness,
  dcOffset,
  tags,
  extension,
  name,
  folder,
  setSize,
  fileCount,
  listFile,
  nothingElse,
] as const;

type SchemaOf<K> = K extends { schema: v.GenericSchema<infer R> } ? R : never;

/** One line of a target sheet. */
export type Requirement = SchemaOf<(typeof kinds)[number]>;

export const requirementSchema = v.variant(
  'kind',
  kinds.map(({ schema }) => schema) as unknown as [
    v.ObjectSchema<{ readonly kind: v.LiteralSchema<string, undefined> }, undefined>,
  ],
) as unknown as v.GenericSchema<Requirement>;

type Kind = FileRequirementKind<Requirement> | SetRequirementKind<Requirement>;

const byName = new Map<string, Kind>(kinds.map((kind) => [kind.kind, kind as unknown as Kind]));

/** Every kind, in the order in which a sheet is best read. */
export const requirementKinds: readonly Kind[] = [...byName.values()];

/** The kind that `requirement` is of. */
export function kindOf(requirement: Requirement): Kind {
  const kind = byName.get(requirement.kind);
  if (!kind) throw new RangeError(`no kind of requirement "${requirement.kind}"`);
  return kind;
}
