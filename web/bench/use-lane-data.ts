import type { Peaks, Powers } from '@tambur/core';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { fetchFloats } from '../api/client.ts';
import { type StoredSound, storedReader } from '../sound/samples.ts';
import type { View } from '../sound/view.ts';
import { extentOfPeaks, extentOfSamples, strengthOfPowers, strengthOfSamples } from '../sound/waveform.ts';
import { laneNeeds } from './lane-needs.ts';

const never = Number.POSITIVE_INFINITY;

/** Samples that are seen from near, from one frame on. */
export interface SampleStretch {
  readonly from: number;
  readonly channels: readonly Float32Array[];
}

const NOTHING: StoredSound = { path: '', facts: { sampleRate: 1, channels: 1, frames: 0 } };

/** What a lane draws of a sound in a view: peaks from far, samples from near; and of all of it. Undefined while it is on its way, and if there is none. */
export function useLaneData(sound: StoredSound | null, view: View, width: number) {
  const { path, facts } = sound ?? NOTHING;
  const { step, samples: near } = laneNeeds(facts.frames, view, width);
  const enabled = sound !== null;
  const peaks = useQuery({
    queryKey: ['peaks', path, step],
    queryFn: async ({ signal }): Promise<Peaks> => ({
      step,
      channelCount: facts.channels,
      values: await fetchFloats(`${path}/peaks?step=${step}`, signal),
    }),
    enabled,
    staleTime: never,
  });

  const powers = useQuery({
    queryKey: ['powers', path, step],
    queryFn: async ({ signal }): Promise<Powers> => ({
      step,
      channelCount: facts.channels,
      values: await fetchFloats(`${path}/powers?step=${step}`, signal),
    }),
    enabled,
    staleTime: never,
  });

  const samples = useQuery({
    queryKey: ['samples', path, near?.from, near?.count],
    queryFn: async () => near && sound && storedReader(sound).read(near.from, near.count),
    enabled: enabled && near !== null,
    staleTime: never,
    gcTime: 10_000,
  });

  const whole = useMemo(() => (peaks.data ? extentOfPeaks(peaks.data) : undefined), [peaks.data]);
  const from = near?.from;
  const seen = useMemo<SampleStretch | null>(
    () => (from !== undefined && samples.data ? { from, channels: samples.data } : null),
    [from, samples.data],
  );
  const extent = useMemo(() => (seen ? extentOfSamples(seen.channels, seen.from) : whole), [seen, whole]);
  /** How strong it is; null if that has not been measured, or is on its way. */
  const wholeStrength = useMemo(
    () => (powers.data && powers.data.values.length > 0 ? strengthOfPowers(powers.data) : null),
    [powers.data],
  );
  const strength = useMemo(
    () => (seen ? strengthOfSamples(seen.channels, seen.from) : wholeStrength),
    [seen, wholeStrength],
  );
  return { extent, strength, whole, wholeStrength, samples: seen, error: peaks.error ?? (near ? samples.error : null) };
}
