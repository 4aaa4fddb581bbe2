import { findEncoding, LARGEST_RATE, MOST_CHANNELS } from '@tambur/core';
import * as v from 'valibot';

/** How headerless bytes are to be taken, as a request or the record of a source says it. */
export const readingSchema = v.object({
  encoding: v.pipe(
    v.string(),
    v.check((id) => findEncoding(id) !== undefined, 'there is no such encoding'),
  ),
  sampleRate: v.pipe(v.number(), v.minValue(1), v.maxValue(LARGEST_RATE)),
  channels: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(MOST_CHANNELS)),
  skip: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0))),
  bits: v.optional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(64))),
});
