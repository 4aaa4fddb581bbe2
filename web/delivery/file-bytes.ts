import type { ByteFile } from '@tambur/core';
import { queryOptions, useQueries, useQuery } from '@tanstack/react-query';
import { fetchRange } from '../api/delivery-files.ts';

/** Bytes that are fetched at a time. */
export const BLOCK = 1 << 16;

/** Of a large file so much of either end is read for what its bytes say. */
const ENDS = 4 * BLOCK;

/** A block of a delivered file: it never changes. */
const blockQuery = (href: string, size: number, block: number) =>
  queryOptions({
    queryKey: ['bytes', href, block],
    queryFn: ({ signal }) => fetchRange(href, block * BLOCK, Math.min(size, (block + 1) * BLOCK), signal),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
  });

/** Bytes of a file as far as some blocks of it are there. */
export function useBlocks(href: string, size: number, blocks: readonly number[]) {
  const results = useQueries({ queries: blocks.map((block) => blockQuery(href, size, block)) });
  const known = new Map(blocks.map((block, i) => [block, results[i]?.data]));
  const error = results.find((result) => result.error)?.error ?? null;
  const file: ByteFile = {
    size,
    read(start, end) {
      const out = new Uint8Array(Math.max(0, Math.min(end, size) - start));
      for (let i = 0; i < out.length; i++)
        out[i] = known.get(Math.floor((start + i) / BLOCK))?.[(start + i) % BLOCK] ?? 0;
      return out;
    },
  };
  return { file, error, has: (offset: number) => known.get(Math.floor(offset / BLOCK)) !== undefined };
}

/** The bytes by which a file says what it is: all of a small one, both ends of a large one. */
export function useHeadAndTail(href: string, size: number): ByteFile | null {
  const head = useQuery({
    queryKey: ['bytes', href, 'ends'],
    queryFn: async ({ signal }): Promise<ByteFile> => {
      const headEnd = Math.min(size, ENDS);
      const tailStart = Math.max(headEnd, size - ENDS);
      const [first, last] = await Promise.all([
        size > 0 ? fetchRange(href, 0, headEnd, signal) : new Uint8Array(0),
        tailStart < size ? fetchRange(href, tailStart, size, signal) : new Uint8Array(0),
      ]);
      const at = (offset: number) => (offset < headEnd ? first[offset] : last[offset - tailStart]) ?? 0;
      return {
        size,
        read: (start, end) =>
          Uint8Array.from({ length: Math.max(0, Math.min(end, size) - start) }, (_, i) => at(start + i)),
      };
    },
    staleTime: Number.POSITIVE_INFINITY,
  });
  return head.data ?? null;
}
