import type { DeliveryView } from '@tambur/server';
import { QueryClient } from '@tanstack/react-query';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { listenToProgress } from './progress.ts';

let stream: { onmessage?: (event: { data: string }) => void; onopen?: () => void; close: () => void };

beforeEach(() => {
  vi.stubGlobal('location', { origin: 'http://localhost' });
  vi.stubGlobal(
    'EventSource',
    class {
      close = vi.fn();
      constructor() {
        stream = this as unknown as typeof stream;
      }
    },
  );
});
afterEach(() => void vi.unstubAllGlobals());

async function following() {
  const { followServer } = await import('./events.ts');
  const { keys } = await import('./queries.ts');
  const client = new QueryClient();
  const stop = followServer(client);
  const isStale = (key: readonly string[]) => client.getQueryState(key)?.isInvalidated;
  const tell = async (event: object) => {
    stream.onmessage?.({ data: JSON.stringify(event) });
    await new Promise((resolve) => setTimeout(resolve));
  };
  return { client, keys, stop, isStale, tell };
}

const delivery = (id: string, progress: number) =>
  ({ id, progress, rows: [{ title: 'a', done: progress }] }) as unknown as DeliveryView;

test('how far a build is moves at once, of that delivery alone', async () => {
  const { client, keys, tell } = await following();
  client.setQueryData(keys.delivery('d'), delivery('d', 0));
  client.setQueryData(keys.deliveries('j'), [delivery('d', 0), delivery('e', 0.5)]);
  await tell({ type: 'build', deliveryId: 'd', jobId: 'j', progress: 0.25, rows: [0.25] });
  expect(client.getQueryData(keys.delivery('d'))).toEqual(delivery('d', 0.25));
  expect(client.getQueryData(keys.deliveries('j'))).toEqual([delivery('d', 0.25), delivery('e', 0.5)]);
});

test('what was built, and a shelf that changed, are asked for again; nothing else is', async () => {
  const { client, keys, isStale, tell } = await following();
  for (const key of [keys.jobs, keys.shelf, keys.delivery('d'), keys.deliveries('j'), keys.delivery('other')]) {
    client.setQueryData(key, []);
  }
  await tell({ type: 'built', deliveryId: 'd', jobId: 'j', state: 'done' });
  expect([keys.jobs, keys.delivery('d'), keys.deliveries('j')].map(isStale)).toEqual([true, true, true]);
  expect([keys.shelf, keys.delivery('other')].map(isStale)).toEqual([false, false]);
  await tell({ type: 'shelf' });
  expect(isStale(keys.shelf)).toBe(true);
});

test('how far an import is reaches whoever waits for it; after a gap all deliveries are asked for again', async () => {
  const { client, keys, stop, isStale, tell } = await following();
  const heard: number[] = [];
  const stopListening = listenToProgress('import', 'i', ({ frames }) => heard.push(frames));
  await tell({ type: 'import', importId: 'i', frames: 10, expected: null });
  await tell({ type: 'import', importId: 'another', frames: 20, expected: null });
  stopListening();
  await tell({ type: 'import', importId: 'i', frames: 30, expected: null });
  expect(heard).toEqual([10]);
  client.setQueryData(keys.delivery('d'), {});
  stream.onopen?.();
  await new Promise((resolve) => setTimeout(resolve));
  expect(isStale(keys.delivery('d'))).toBe(true);
  stop();
  expect(stream.close).toHaveBeenCalledOnce();
});
