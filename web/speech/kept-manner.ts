import { within } from '@tambur/core';
import { type Manner, PITCH_RANGE, SPEED_RANGE, USUAL_MANNER, VOICES } from '@tambur/speech';
import * as v from 'valibot';

const keptSchema = v.fallback(
  v.object({
    voice: v.fallback(v.picklist(VOICES.map(({ id }) => id)), USUAL_MANNER.voice),
    speed: v.fallback(within(SPEED_RANGE), USUAL_MANNER.speed),
    pitch: v.fallback(within(PITCH_RANGE), USUAL_MANNER.pitch),
  }),
  USUAL_MANNER,
);

/** The manner that was kept as JSON, or null; what is missing or unknown in it is as usual. */
export function mannerFrom(text: string | null): Manner {
  try {
    return v.parse(keptSchema, JSON.parse(text ?? 'null'));
  } catch {
    // What is no JSON was not kept by this view.
    return USUAL_MANNER;
  }
}
