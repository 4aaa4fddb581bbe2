import { Hono } from 'hono';
import { streamSSE } from 'hono/streaming';
import type { Events } from '../answers/events.ts';

/** So that proxies and sleeping laptops do not take a quiet stream for a dead one. */
const HEARTBEAT_MS = 15_000;

/** Server-sent events: everything that pages want to know at once. */
export const eventRoutes = (events: Events) =>
  new Hono().get('/', (c) =>
    streamSSE(c, async (stream) => {
      const stop = events.listen((event) => void stream.writeSSE({ data: JSON.stringify(event) }));
      stream.onAbort(stop);
      while (!stream.aborted) {
        await stream.writeSSE({ event: 'heartbeat', data: '' });
        await stream.sleep(HEARTBEAT_MS);
      }
    }),
  );
