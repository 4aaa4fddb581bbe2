import type { ShelfView } from '@tambur/server';
import { useQueryClient } from '@tanstack/react-query';
import { deleteSource, restoreSource, sourceKey } from '../api/shelf.ts';
import { notify, notifyFailure } from '../ui/notify.tsx';

/** Deletes sources; one that a clip uses stays, and says so. What is gone comes back with Undo. */
export function useDeletion(reload: () => Promise<unknown>) {
  const client = useQueryClient();
  return async (ids: readonly string[]) => {
    const [only] = ids;
    const name = only && client.getQueryData<ShelfView | null>(sourceKey(only))?.name;
    const results = await Promise.allSettled(ids.map(deleteSource));
    const gone = ids.filter((_, i) => results[i]?.status === 'fulfilled');
    for (const result of results) if (result.status === 'rejected') notifyFailure(result.reason);
    await reload();
    if (gone.length === 0) return;
    notify(gone.length === 1 && name ? `${name} deleted` : `${gone.length} sources deleted`, {
      label: 'Undo',
      onClick: () => void Promise.all(gone.map(restoreSource)).then(reload).catch(notifyFailure),
    });
  };
}
