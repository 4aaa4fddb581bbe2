import { targets } from '@tambur/core';
import { Hono } from 'hono';

/** The target sheets. */
export const targetRoutes = () => new Hono().get('/', (c) => c.json(targets));
