import * as Comlink from 'comlink';
import { expect, test, vi } from 'vitest';
import { TaskWorker } from './task-worker.ts';

const api = { double: (value: number) => 2 * value, never: () => new Promise<number>(() => undefined) };

/** Workers in this very thread, over a channel of messages. */
function workers() {
  const made: (Worker & { fail(): void })[] = [];
  const task = new TaskWorker<typeof api>(() => {
    const { port1, port2 } = new MessageChannel();
    Comlink.expose(api, port2);
    port1.start();
    const events = new EventTarget();
    const worker = {
      postMessage: (message: unknown, list: Transferable[]) => port1.postMessage(message, list),
      addEventListener: (kind: string, listener: EventListener) =>
        kind === 'message' ? port1.addEventListener(kind, listener) : events.addEventListener(kind, listener),
      removeEventListener: (kind: string, listener: EventListener) => port1.removeEventListener(kind, listener),
      terminate: vi.fn(() => {
        port1.close();
        port2.close();
      }),
      fail: () => events.dispatchEvent(Object.assign(new Event('error'), { message: 'no memory' })),
    } as unknown as Worker & { fail(): void };
    made.push(worker);
    return worker;
  });
  return { task, made };
}

test('one worker answers all calls', async () => {
  const { task, made } = workers();
  expect(made).toHaveLength(0);
  expect(await Promise.all([1, 2, 3].map((value) => task.run((remote) => remote.double(value))))).toEqual([2, 4, 6]);
  expect(made).toHaveLength(1);
  task.end(new Error('over'));
});

test.each(['it fails', 'it is ended'])('nobody waits for a worker for ever: %s', async (how) => {
  const { task, made } = workers();
  const waiting = [task.run((remote) => remote.never()), task.run((remote) => remote.never())];
  const outcomes = Promise.allSettled(waiting);
  if (how === 'it fails') made[0]?.fail();
  else task.end(new Error('it took too long'));
  const reason = how === 'it fails' ? 'no memory' : 'it took too long';
  expect((await outcomes).map((outcome) => outcome.status === 'rejected' && outcome.reason.message)).toEqual([
    reason,
    reason,
  ]);
  expect(made[0]?.terminate).toHaveBeenCalledOnce();
  expect(await task.run((remote) => remote.double(4))).toBe(8);
  expect(made).toHaveLength(2);
  task.end(new Error('over'));
});
