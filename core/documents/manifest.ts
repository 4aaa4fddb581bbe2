import * as v from 'valibot';
import { doubled } from '../forms/index.ts';
import { FORMAT } from '../targets/index.ts';
import { MOST_CLIPS } from './job.ts';
import { readingSchema } from './reading.ts';

const sha256 = v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/, 'a SHA-256 has 64 hexadecimal digits'));

/**
 * What an exported job holds: `manifest.json` of a ZIP with `job.json`, `sheets/<id>.json`, `sources/<sha256>`,
 * `lists/<sha256>` and `deliveries/<id>/`.
 */
export const manifestSchema = v.strictObject({
  format: v.literal(FORMAT),
  kind: v.literal('job'),
  /** What the job's sources are: how their bytes are read, and what people call them. */
  sources: v.pipe(
    v.array(
      v.strictObject({
        /** As the job's clips know it. */
        id: v.string(),
        sha256,
        name: v.string(),
        reading: v.nullable(readingSchema),
        track: v.pipe(v.number(), v.integer(), v.minValue(0)),
      }),
    ),
    v.maxLength(MOST_CLIPS, 'a job has at most 1 000 clips, and no more sources'),
    v.check((sources) => doubled(sources.map(({ id }) => id)) === undefined, 'two sources have the same id'),
  ),
  /** The SHA-256 of every other entry, by its path. */
  hashes: v.record(v.string(), sha256),
});

export type Manifest = v.InferOutput<typeof manifestSchema>;
