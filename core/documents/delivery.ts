import * as v from 'valibot';
import { MOST_CHANNELS } from '../audio/index.ts';
import type { RenderReport } from '../chain/index.ts';
import type { Reading } from '../containers/index.ts';
import type { Facts } from '../facts/index.ts';
import type { Finding } from '../findings/index.ts';
import { doubled } from '../forms/index.ts';
import { cardPath } from '../lists/index.ts';
import { FORMAT, type Target, targetSchema } from '../targets/index.ts';
import { jobSchema } from './job.ts';
import { readingSchema } from './reading.ts';

const whole = v.pipe(v.number(), v.integer(), v.minValue(0));

/** What the program itself writes: measured, not typed by anybody. */
const record = <T>() => v.looseObject({}) as unknown as v.GenericSchema<T>;

/** A path that another one also has, or goes through as a folder; null if there is none. */
export function pathClash(paths: readonly string[]): string | null {
  const files = new Set(paths);
  if (files.size < paths.length) return doubled(paths) ?? null;
  const isBelowFile = (path: string) =>
    path.split('/').some((_, i, parts) => i > 0 && files.has(parts.slice(0, i).join('/')));
  return paths.find(isBelowFile) ?? null;
}

/** Of the facts of a file what all that reads a record relies on; what else there is stays. */
const factsSchema = v.looseObject({
  container: v.string(),
  encoding: v.string(),
  sampleRate: v.pipe(v.number(), v.minValue(0)),
  channels: v.pipe(whole, v.maxValue(MOST_CHANNELS)),
  frames: whole,
  bytes: whole,
  tags: v.array(v.looseObject({})),
  warnings: v.array(v.string()),
  levels: v.looseObject({ peak: v.array(v.number()), rms: v.array(v.number()) }),
}) as unknown as v.GenericSchema<Facts>;

const partSchema = v.strictObject({
  /** Id of the clip. */
  clip: v.string(),
  /** Where in the file it stands, in bytes. */
  offset: whole,
  length: whole,
  facts: factsSchema,
  report: record<RenderReport>(),
  findings: v.array(record<Finding>()),
});

export const artifactSchema = v.strictObject({
  /** From the top of the card. */
  path: cardPath,
  role: v.picklist(['sound', 'list', 'pack']),
  bytes: whole,
  sha256: v.string(),
  /** Hash of all that it was made of: what is the same need not be made again. Empty if nobody recorded it. */
  madeOf: v.string(),
  /** The clips that stand in it. */
  parts: v.array(partSchema),
});

/** What was delivered, and of what: it never changes. */
export const deliverySchema = v.strictObject({
  format: v.literal(FORMAT),
  id: v.string(),
  /** The version of core that made it. */
  core: v.string(),
  /** As it was. */
  job: jobSchema,
  /** As it was: its variant and values filled in. */
  sheet: targetSchema as v.GenericSchema<Target>,
  sources: v.record(
    v.string(),
    v.strictObject({
      sha256: v.string(),
      reading: v.nullable(readingSchema as v.GenericSchema<unknown, Reading>),
      track: whole,
      facts: factsSchema,
    }),
  ),
  /** In the order in which they are copied. */
  artifacts: v.pipe(
    v.array(artifactSchema),
    v.check(
      (artifacts) => pathClash(artifacts.map(({ path }) => path)) === null,
      'two of its files have the same path',
    ),
  ),
  /** On the set as a whole. */
  findings: v.array(record<Finding>()),
});

export type Artifact = v.InferOutput<typeof artifactSchema>;
export type DeliveryRecord = v.InferOutput<typeof deliverySchema>;
