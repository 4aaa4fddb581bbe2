import type { ShelfFilter, ShelfOrder, ShelfQuery } from '@tambur/server';
import { useEffect, useState } from 'react';

type Sorting = Pick<ShelfQuery, 'order' | 'isDescending'>;

const SORTING = 'tambur.shelf-sorting';

const newestFirst: Sorting = { order: 'added', isDescending: true };

function storedSorting(): Sorting {
  try {
    const stored: unknown = JSON.parse(localStorage.getItem(SORTING) ?? '');
    if (typeof stored === 'object' && stored !== null && 'order' in stored) return stored as Sorting;
  } catch {
    // Nothing kept, or nothing that can be used.
  }
  return newestFirst;
}

/** What begins with the smallest when it is first sorted by; of everything else the largest is of interest. */
const ASCENDING: readonly ShelfOrder[] = ['name', 'kind'];

/** What is wanted of the shelf; how it is sorted is remembered. */
export function useShelfQuery() {
  const [search, setSearch] = useState('');
  const [filter, setFilter] = useState<ShelfFilter>('all');
  const [sorting, setSorting] = useState(storedSorting);
  useEffect(() => localStorage.setItem(SORTING, JSON.stringify(sorting)), [sorting]);
  const sortBy = (order: ShelfOrder) =>
    setSorting((before) => ({
      order,
      isDescending: before.order === order ? !before.isDescending : !ASCENDING.includes(order),
    }));
  return { query: { search, filter, ...sorting } satisfies ShelfQuery, setSearch, setFilter, sortBy };
}
