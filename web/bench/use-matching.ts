import { automaticSettings, type Target } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useQuery } from '@tanstack/react-query';
import type { Cut } from '../sound/cut.ts';
import { measureWorker } from '../sound/workers/workers.ts';

/** Of longer cuts the loudness is that of the whole source, seconds. */
const LONG = 60;

/** How loud the cut of a source is, in LUFS; null if it is silent or not known yet. */
export function useLoudness(source: SourceView, { start, end }: Cut, target: Target, isWanted: boolean): number | null {
  const { frames, sampleRate, measures } = source.facts;
  const isPart = (start > 0 || end < frames) && (end - start) / sampleRate <= LONG;
  const query = useQuery({
    queryKey: ['loudness of a cut', source.id, start, end],
    queryFn: async () => {
      const settings = { ...automaticSettings('cut'), cut: { start, end } };
      const order = { facts: source.facts, settings, target: { ...target, requirements: [] } };
      const found = await measureWorker.run((remote) => remote.measure(source, order));
      return 'refused' in found ? null : found.loudness;
    },
    enabled: isWanted && isPart,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });
  return isPart ? (query.data ?? null) : measures.loudness;
}

/**
 * Linear gains by which all sound as loud as the quietest; 1 if a loudness is not known.
 * @param loudness LUFS by name
 */
export function matched<Name extends string>(loudness: Readonly<Record<Name, number | null>>): Record<Name, number> {
  const known = Object.values<number | null>(loudness).filter((each) => each !== null);
  const quietest = Math.min(...known);
  const gains = Object.entries<number | null>(loudness).map(([name, each]) => [
    name,
    each === null ? 1 : 10 ** ((quietest - each) / 20),
  ]);
  return Object.fromEntries(gains);
}
