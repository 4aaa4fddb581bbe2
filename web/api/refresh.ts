import type { QueryClient } from '@tanstack/react-query';

/**
 * Loads again, after a change, what stands under a key. What is being loaded at this moment is dropped and asked for
 * again: its answer may be older than the change, and invalidating alone would take it for the new one.
 */
export async function refresh(client: QueryClient, queryKey: readonly string[]): Promise<void> {
  await client.cancelQueries({ queryKey });
  await client.invalidateQueries({ queryKey });
}
