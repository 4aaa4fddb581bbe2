import { promptSchema } from '@tambur/speech';
import { Hono } from 'hono';
import type { Speaker } from '../speech/speaker.ts';
import { jsonBody } from './body.ts';

/** Prompts, spoken. */
export const speechRoutes = (speaker: Speaker) =>
  new Hono().post('/', jsonBody(promptSchema), async (c) => {
    const wav = await speaker.speak(c.req.valid('json'), c.req.raw.signal);
    return c.body(wav, 200, { 'Content-Type': 'audio/wav' });
  });
