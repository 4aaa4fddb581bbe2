import type { ShelfFilter } from '@tambur/server';

/** Which sources the shelf shows, in words. */
export const filters: readonly { readonly value: ShelfFilter; readonly label: string }[] = [
  { value: 'all', label: 'All sources' },
  { value: 'plain', label: 'Plain samples' },
  { value: 'lossless', label: 'Lossless' },
  { value: 'lossy', label: 'Lossy' },
  { value: 'video', label: 'From video' },
  { value: 'bare', label: 'Headerless' },
  { value: 'remarked', label: 'With remarks' },
  { value: 'unused', label: 'In no job' },
];
