import type { ShelfList, ShelfQuery, ShelfView } from '@tambur/server';
import { keepPreviousData, type QueryClient, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, unwrap } from './client.ts';
import { keys } from './queries.ts';
import { refresh } from './refresh.ts';

/** The ids of the sources that are wanted; those of the query before until they are there. */
export const useShelfList = (query: ShelfQuery) =>
  useQuery({
    queryKey: [...keys.shelf, 'list', query],
    queryFn: ({ signal }) => {
      const { isDescending, ...wanted } = query;
      const descending = isDescending ? 'true' : 'false';
      return unwrap<ShelfList>(api.sources.list.$get({ query: { ...wanted, descending } }, { init: { signal } }));
    },
    placeholderData: keepPreviousData,
  });

/** The server tells of so many sources in one answer. */
const MOST_ROWS = 200;

/** What sources are, in the order of the ids; without those that have gone. */
export async function loadSources(ids: readonly string[]): Promise<ShelfView[]> {
  const found = new Map<string, ShelfView>();
  for (let at = 0; at < ids.length; at += MOST_ROWS) {
    const query = { ids: ids.slice(at, at + MOST_ROWS).join(',') };
    for (const source of await unwrap<ShelfView[]>(api.sources.$get({ query }))) found.set(source.id, source);
  }
  return ids.flatMap((id) => found.get(id) ?? []);
}

let asked: { readonly ids: string[]; readonly answer: Promise<ReadonlyMap<string, ShelfView>> } | null = null;

/** What a source is; null if it has gone. All that are asked for in one go are asked for in one request. */
async function loadSource(id: string): Promise<ShelfView | null> {
  if (!asked) {
    const ids: string[] = [];
    const answer = Promise.resolve().then(async () => {
      asked = null;
      return new Map((await loadSources(ids)).map((source) => [source.id, source]));
    });
    asked = { ids, answer };
  }
  asked.ids.push(id);
  return (await asked.answer).get(id) ?? null;
}

export const sourceKey = (id: string) => [...keys.shelf, 'source', id] as const;

const sourceQuery = (id: string) => ({ queryKey: sourceKey(id), queryFn: () => loadSource(id) });

/** A source of the shelf. Where nothing may be asked for now, it is what is known of it. */
export const useSource = (id: string | undefined, mayAsk = true) =>
  useQuery({ ...sourceQuery(id ?? ''), enabled: id !== undefined && mayAsk });

/** Asks for sources that will soon be seen. */
export function expectSources(client: QueryClient, ids: readonly string[]): void {
  for (const id of ids) void client.prefetchQuery(sourceQuery(id));
}

export function useRenameSource() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, name }: { id: string; name: string }) =>
      unwrap<ShelfView>(api.sources[':id'].$patch({ param: { id }, json: { name } })),
    onSuccess: () => refresh(client, keys.shelf),
  });
}

export const deleteSource = (id: string) => unwrap(api.sources[':id'].$delete({ param: { id } }));

export const restoreSource = (id: string) => unwrap<ShelfView>(api.sources[':id'].restore.$post({ param: { id } }));
