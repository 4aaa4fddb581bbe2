import type { Pcm, Reading } from '@tambur/core';
import * as Comlink from 'comlink';
import { useEffect, useState } from 'react';
import { headerlessWorker } from '../sound/workers/workers.ts';
import { bytesFor } from './readings.ts';

/** That are drawn and heard. */
const SECONDS = 20;

/** The first seconds of the bytes in one reading. */
export function useReading(
  bytes: Uint8Array | null,
  reading: Reading | null,
): { pcm: Pcm | null; problem: string | null } {
  const [outcome, setOutcome] = useState<{ pcm: Pcm | null; problem: string | null }>({ pcm: null, problem: null });
  useEffect(() => {
    if (!bytes || !reading) return;
    let isLate = false;
    const part = bytes.slice(0, bytesFor(reading, SECONDS));
    headerlessWorker
      .run((remote) => remote.readAs(Comlink.transfer(part, [part.buffer]), reading))
      .then((result) => {
        if (isLate) return;
        setOutcome('pcm' in result ? { pcm: result.pcm, problem: null } : { pcm: null, problem: result.refused });
      })
      .catch((error: Error) => !isLate && setOutcome({ pcm: null, problem: error.message }));
    return () => {
      isLate = true;
    };
  }, [bytes, reading]);
  return outcome;
}
