import { CORE_VERSION, messageOf } from '@tambur/core';
import type { AgainView, DeliveryView } from '@tambur/server';
import { useEffect, useRef, useState } from 'react';
import { buildAgain } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Progress } from '../ui/states.tsx';

/** What came of it, in words. */
function wordsOf({ total, different, failures, madeBy }: AgainView): string {
  const files = total === 1 ? 'the file has' : `all ${total} files have`;
  if (different.length === 0) return `Built again: ${files} the same bytes.`;
  const other =
    madeBy === CORE_VERSION ? '' : ` It was made by version ${madeBy} of Tambur's core; this is ${CORE_VERSION}.`;
  return `Built again: ${different.length} of ${total} have other bytes: ${different.join(', ')}.${other} ${failures.join(' ')}`.trim();
}

/** Proves on demand that the same job gives the same bytes. */
export function BuildAgain({ delivery }: { readonly delivery: DeliveryView }) {
  const { id } = delivery;
  // Of a finished delivery all is done until something is told of the new build.
  const progress = delivery.progress < 1 ? delivery.progress : 0;
  const [running, setRunning] = useState<AbortController | null>(null);
  const [came, setCame] = useState<{ readonly words: string; readonly isSame: boolean } | null>(null);
  const last = useRef<AbortController>(undefined);
  useEffect(() => () => last.current?.abort(), []);
  const build = async () => {
    const stop = new AbortController();
    last.current = stop;
    setRunning(stop);
    setCame(null);
    try {
      const view = await buildAgain(id, stop.signal);
      setCame({ words: wordsOf(view), isSame: view.different.length === 0 });
    } catch (error) {
      if (!stop.signal.aborted) setCame({ words: messageOf(error), isSame: false });
    } finally {
      setRunning(null);
    }
  };
  if (running) {
    return (
      <div className="mt-2 max-w-md">
        <Progress value={progress} label="Building again">
          <div className="mt-1 flex items-center justify-between text-sm">
            <span role="status">
              building again, <span className="figure">{Math.round(progress * 100)} %</span>
            </span>
            <Button kind="quiet" onClick={() => running.abort()}>
              Cancel
            </Button>
          </div>
        </Progress>
      </div>
    );
  }
  return (
    <div className="mt-1 flex flex-wrap items-baseline gap-x-3 text-sm">
      <Button kind="quiet" className="-ml-1.5" onClick={() => void build()}>
        Build again and compare
      </Button>
      {came && (
        <span role={came.isSame ? 'status' : 'alert'} className={came.isSame ? 'text-pine' : 'text-brick'}>
          {came.words}
        </span>
      )}
    </div>
  );
}
