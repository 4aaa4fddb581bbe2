import * as v from 'valibot';
import { LARGEST_RATE, MOST_CHANNELS } from '../audio/index.ts';
import { findEncoding } from '../encodings/index.ts';
import { wholeWithin, within } from '../forms/index.ts';

/** How headerless bytes are to be taken, as a request or the record of a source says it. */
export const readingSchema = v.object({
  encoding: v.pipe(
    v.string(),
    v.check((id) => findEncoding(id) !== undefined, 'there is no such encoding'),
  ),
  sampleRate: within({ least: 1, most: LARGEST_RATE }),
  channels: wholeWithin({ least: 1, most: MOST_CHANNELS }),
  skip: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0))),
  bits: v.optional(wholeWithin({ least: 1, most: 64 })),
});
