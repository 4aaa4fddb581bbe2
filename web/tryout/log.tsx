import type { Happening } from '@tambur/core';
import { useEffect, useRef } from 'react';

/** What a device did, in order; what it did last is seen. */
export function Log({ log }: { log: readonly Happening[] }) {
  const list = useRef<HTMLOListElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: it grows when there is more of it
  useEffect(() => {
    list.current?.scrollTo({ top: list.current.scrollHeight });
  }, [log]);
  return (
    <section aria-label="What happened">
      <h2 className="label">What happened</h2>
      <ol ref={list} className="mt-1 max-h-96 overflow-y-auto">
        {log.map(({ at, path, words }, i) => (
          <li
            // A device may do the same thing twice at one moment.
            // biome-ignore lint/suspicious/noArrayIndexKey: entries are only ever added at the end
            key={i}
            className="grid grid-cols-[4.5rem_minmax(0,1fr)] gap-2 border-b border-hairline py-1 text-sm"
          >
            <span className="figure text-graphite">{at.toFixed(3)} s</span>
            <span className="min-w-0">
              <span className="figure block truncate" title={path}>
                {path}
              </span>
              {words}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
