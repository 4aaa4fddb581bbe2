import type { DeliveryView } from '@tambur/server';
import { useEffect, useRef, useState } from 'react';
import { cancelDelivery } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Progress } from '../ui/states.tsx';

/** Looked at again so often, to say how long it will take. */
const LOOK_MS = 1000;

/** Seconds that are left, by how far it came since it was first seen; null while that says too little. */
function useSecondsLeft(progress: number): number | null {
  const first = useRef<{ readonly at: number; readonly progress: number }>(undefined);
  const [left, setLeft] = useState<number | null>(null);
  const now = useRef(progress);
  useEffect(() => {
    now.current = progress;
  }, [progress]);
  useEffect(() => {
    const look = () => {
      first.current ??= { at: performance.now(), progress: now.current };
      const done = now.current - first.current.progress;
      const took = (performance.now() - first.current.at) / 1000;
      setLeft(done > 0.02 && took > 1 ? Math.ceil(((1 - now.current) / done) * took) : null);
    };
    look();
    const timer = setInterval(look, LOOK_MS);
    return () => clearInterval(timer);
  }, []);
  return left;
}

const leftWords = (seconds: number): string =>
  seconds < 60 ? `${seconds} s left` : `${Math.floor(seconds / 60)} min ${seconds % 60} s left`;

/** A delivery while it is built: all of it, and each of its sounds. */
export function Building({ delivery }: { readonly delivery: DeliveryView }) {
  const { id, progress, total, rows } = delivery;
  const left = useSecondsLeft(progress);
  const done = rows.filter((row) => row.done >= 1).length;
  return (
    <div className="mt-6 max-w-2xl">
      <Progress value={progress} label="Building the set">
        <div className="mt-2 flex items-center justify-between gap-4">
          <span role="status">
            building {total} {total === 1 ? 'file' : 'files'},{' '}
            <span className="figure">{Math.round(progress * 100)} %</span>
          </span>
          <span className="figure text-sm text-graphite">{left !== null && leftWords(left)}</span>
          <Button onClick={() => void cancelDelivery(id)}>Cancel</Button>
        </div>
      </Progress>
      {rows.length > 1 && (
        <>
          <p className="label mt-4">
            files <span className="figure">{done}</span> of <span className="figure">{rows.length}</span>
          </p>
          <ol className="mt-1 max-h-96 overflow-y-auto border-t border-hairline text-sm" aria-label="Files being built">
            {rows.map(({ title, done: part }, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: rows do not move
              <li key={i} className="relative flex justify-between gap-4 border-b border-hairline py-1">
                <span className="absolute inset-y-0 left-0 -z-10 bg-pine-tint" style={{ width: `${part * 100}%` }} />
                <span className="truncate px-1">{title}</span>
                <span className="figure pr-1 text-graphite">
                  {part >= 1 ? 'done' : part > 0 ? `${Math.round(part * 100)} %` : ''}
                </span>
              </li>
            ))}
          </ol>
        </>
      )}
    </div>
  );
}
