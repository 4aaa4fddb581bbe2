import type { ShelfFilter, ShelfOrder, ShelfQuery } from '@tambur/server';
import { useEffect, useState } from 'react';

/** The server takes no longer ones. */
export const LONGEST_SEARCH = 200;

type Sorting = Pick<ShelfQuery, 'order' | 'isDescending'>;

const SORTING = 'tambur.shelf-sorting';

/** What the shelf is sorted by, and whether the largest comes first when it is chosen. */
const LARGEST_FIRST: Readonly<Record<ShelfOrder, boolean>> = {
  name: false,
  kind: false,
  rate: true,
  channels: true,
  length: true,
  size: true,
  jobs: true,
  added: true,
};

function storedSorting(): Sorting {
  try {
    const { order, isDescending } = JSON.parse(localStorage.getItem(SORTING) ?? '') as Sorting;
    if (Object.hasOwn(LARGEST_FIRST, order)) return { order, isDescending: isDescending === true };
  } catch {
    // Nothing kept, or nothing that can be used.
  }
  return { order: 'added', isDescending: true };
}

/** What is wanted of the shelf; how it is sorted is remembered. */
export function useShelfQuery() {
  const [search, setSearch] = useState('');
  const [filter, setFilter] = useState<ShelfFilter>('all');
  const [sorting, setSorting] = useState(storedSorting);
  useEffect(() => localStorage.setItem(SORTING, JSON.stringify(sorting)), [sorting]);
  const sortBy = (order: ShelfOrder) =>
    setSorting((before) => ({
      order,
      isDescending: before.order === order ? !before.isDescending : LARGEST_FIRST[order],
    }));
  return { query: { search, filter, ...sorting } satisfies ShelfQuery, setSearch, setFilter, sortBy };
}
