import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { expect, test } from 'vitest';
import { refresh } from './refresh.ts';

/** A list that is asked for, each answer given by hand. */
function listOf(client: QueryClient) {
  const answers: ((value: string) => void)[] = [];
  const observer = new QueryObserver(client, {
    queryKey: ['list'],
    queryFn: () => new Promise<string>((resolve) => answers.push(resolve)),
  });
  const stop = observer.subscribe(() => undefined);
  return { answers, stop, shown: () => observer.getCurrentResult().data };
}

test.each([
  'the first time',
  'again',
])('an answer asked for before a change is not taken for the new one: loaded %s', async (when) => {
  const client = new QueryClient();
  const list = listOf(client);
  if (when === 'again') {
    list.answers.shift()?.('older still');
    await expect.poll(list.shown).toBe('older still');
    void client.refetchQueries({ queryKey: ['list'] });
  }
  expect(list.answers).toHaveLength(1);
  const done = refresh(client, ['list']);
  await expect.poll(() => list.answers.length).toBe(2);
  list.answers[1]?.('new');
  list.answers[0]?.('old');
  await done;
  expect(list.shown()).toBe('new');
  expect(client.getQueryState(['list'])?.isInvalidated).toBe(false);
  list.stop();
});
