import { createHash } from 'node:crypto';

/** SHA-256 in hex. */
export const sha256Of = (bytes: Uint8Array | string): string => createHash('sha256').update(bytes).digest('hex');

/** A hash of plain data, whatever order its entries were written in. */
export const hashOf = (data: unknown): string =>
  sha256Of(
    JSON.stringify(data, (_, value) =>
      typeof value === 'object' && value !== null && !Array.isArray(value)
        ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
        : value,
    ),
  );
