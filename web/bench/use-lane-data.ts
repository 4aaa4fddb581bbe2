import type { Peaks } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useQuery } from '@tanstack/react-query';
import { fetchFloats } from '../api/client.ts';
import { sourceReader } from '../sound/samples.ts';
import { type Extent, extentOfPeaks, extentOfSamples, type View } from '../sound/waveform.ts';
import { laneNeeds } from './lane-needs.ts';

const never = Number.POSITIVE_INFINITY;

/** What a lane draws of a source in a view: peaks from far, samples from near. Undefined while the first is on its way. */
export function useLaneData(source: SourceView, view: View, width: number) {
  const { id, facts } = source;
  const { step, samples: near } = laneNeeds(facts.frames, view, width);
  const peaks = useQuery({
    queryKey: ['peaks', id, step],
    queryFn: async ({ signal }): Promise<Peaks> => ({
      step,
      channelCount: facts.channels,
      values: await fetchFloats(`/api/sources/${id}/peaks?step=${step}`, signal),
    }),
    staleTime: never,
  });

  const samples = useQuery({
    queryKey: ['samples', id, near?.from, near?.count],
    queryFn: async () => near && sourceReader(source).read(near.from, near.count),
    enabled: near !== null,
    staleTime: never,
    gcTime: 10_000,
  });

  const extent: Extent | undefined =
    near && samples.data
      ? extentOfSamples(samples.data, near.from)
      : peaks.data
        ? extentOfPeaks(peaks.data)
        : undefined;
  return { extent, error: peaks.error ?? (near ? samples.error : null) };
}
