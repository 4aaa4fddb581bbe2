import { PEAK_STEPS, type Peaks } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useQuery } from '@tanstack/react-query';
import { fetchFloats } from '../api/client.ts';
import { sourceReader } from '../sound/samples.ts';
import { type Extent, extentOfPeaks, extentOfSamples, type View } from '../sound/waveform.ts';

/** Bins of peaks that are fetched at most: some megabytes. */
const MOST_BINS = 200_000;
/** Seen closer than this many frames for each pixel, samples take the place of peaks. */
const CLOSE = 256;
/** Most frames whose samples are fetched to draw them. */
const MOST_FRAMES = 400_000;

const never = Number.POSITIVE_INFINITY;

/** What a lane draws of a source in a view: peaks from far, samples from near. Undefined while the first is on its way. */
export function useLaneData(source: SourceView, view: View, width: number) {
  const { id, facts } = source;
  const step =
    PEAK_STEPS.find((entry) => facts.frames / entry <= MOST_BINS) ?? PEAK_STEPS[PEAK_STEPS.length - 1] ?? 256;
  const peaks = useQuery({
    queryKey: ['peaks', id, step],
    queryFn: async ({ signal }): Promise<Peaks> => ({
      step,
      channelCount: facts.channels,
      values: await fetchFloats(`/api/sources/${id}/peaks?step=${step}`, signal),
    }),
    staleTime: never,
  });

  const from = Math.floor(view.from);
  const count = Math.min(facts.frames, Math.ceil(view.to)) - from;
  const isClose = width > 0 && count / width < CLOSE && count <= MOST_FRAMES && count > 0;
  const samples = useQuery({
    queryKey: ['samples', id, from, count],
    queryFn: () => sourceReader(source).read(from, count),
    enabled: isClose,
    staleTime: never,
    gcTime: 10_000,
  });

  const extent: Extent | undefined =
    isClose && samples.data ? extentOfSamples(samples.data, from) : peaks.data ? extentOfPeaks(peaks.data) : undefined;
  return { extent, error: peaks.error ?? (isClose ? samples.error : null) };
}
