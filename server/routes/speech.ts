import { Hono } from 'hono';
import * as v from 'valibot';
import type { Speaker } from '../speech/speaker.ts';
import { LONGEST_PROMPT, PITCHES, SPEEDS, voices } from '../speech/voices.ts';
import type { VoiceView } from '../views.ts';
import { jsonBody } from './body.ts';

const promptSchema = v.object({
  text: v.pipe(v.string(), v.trim(), v.nonEmpty('there is nothing to speak'), v.maxLength(LONGEST_PROMPT)),
  voice: v.picklist(voices.map(({ id }) => id)),
  speed: v.pipe(v.number(), v.minValue(SPEEDS.min), v.maxValue(SPEEDS.max)),
  pitch: v.pipe(v.number(), v.minValue(PITCHES.min), v.maxValue(PITCHES.max)),
});

/** Prompts, spoken. */
export const speechRoutes = (speaker: Speaker) =>
  new Hono()
    .get('/', (c) => c.json(voices.map(({ id, title }): VoiceView => ({ id, title }))))
    .post('/', jsonBody(promptSchema), async (c) => {
      const { text, ...manner } = c.req.valid('json');
      const wav = await speaker.speak(text, manner, c.req.raw.signal);
      return c.body(wav, 200, { 'Content-Type': 'audio/wav' });
    });
