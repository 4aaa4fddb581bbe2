import { sha256Of } from '@tambur/disk';

/** A hash of plain data, whatever order its entries were written in. */
export const hashOf = (data: unknown): string =>
  sha256Of(
    JSON.stringify(data, (_, value) =>
      typeof value === 'object' && value !== null && !Array.isArray(value)
        ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
        : value,
    ),
  );
