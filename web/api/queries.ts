import type { Target, Values } from '@tambur/core';
import type { AgainView, CopyView, DeliveryView, JobSummary, JobView, SheetView, SourceView } from '@tambur/server';
import { QueryClient, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, unwrap } from './client.ts';
import { ApiError } from './errors.ts';
import { nothingPending } from './pending-saves.ts';
import { refresh } from './refresh.ts';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      // What the server refused stays refused; only silence is worth another try.
      retry: (count, error) => error instanceof ApiError && error.code === 'offline' && count < 3,
    },
  },
});

export const keys = {
  targets: ['targets'] as const,
  shelf: ['shelf'] as const,
  jobs: ['jobs'] as const,
  job: (id: string) => ['job', id] as const,
  deliveries: (jobId: string) => ['job', jobId, 'deliveries'] as const,
  everyDelivery: ['delivery'] as const,
  delivery: (id: string) => ['delivery', id] as const,
};

export const useTargets = () =>
  useQuery({
    queryKey: keys.targets,
    queryFn: () => unwrap<readonly SheetView[]>(api.targets.$get()),
  });

/** Adds a sheet of the user's own; its id may be taken, then it gets another. */
export const addSheet = (sheet: Target) => unwrap<SheetView>(api.targets.$post({ json: { sheet } }));

export const saveSheet = (sheet: Target) =>
  unwrap<SheetView>(api.targets[':id'].$put({ param: { id: sheet.id }, json: { sheet } }));

export const deleteSheet = (id: string) => unwrap(api.targets[':id'].$delete({ param: { id } }));

/** Loads the sheets again after one of them has changed. */
export function useRefreshSheets() {
  const client = useQueryClient();
  return () => refresh(client, keys.targets);
}

export const useJobs = () => useQuery({ queryKey: keys.jobs, queryFn: () => unwrap<JobSummary[]>(api.jobs.$get()) });

export const useJob = (id: string) =>
  useQuery({
    queryKey: keys.job(id),
    queryFn: async () => {
      await nothingPending(id);
      return unwrap<JobView>(api.jobs[':id'].$get({ param: { id } }));
    },
    // The bench holds the job itself while it is open; it loads it again each time it is opened.
    staleTime: 0,
    gcTime: 0,
    refetchOnWindowFocus: false,
    refetchOnReconnect: false,
  });

/** Beside the server's events, which a page may miss: looks again while something is being built. */
const LOOK_AGAIN_MS = 1_000;

export const useDeliveries = (jobId: string) =>
  useQuery({
    queryKey: keys.deliveries(jobId),
    queryFn: () => unwrap<DeliveryView[]>(api.jobs[':id'].deliveries.$get({ param: { id: jobId } })),
    refetchInterval: ({ state }) => state.data?.[0]?.state === 'building' && LOOK_AGAIN_MS,
  });

export const useDelivery = (id: string) =>
  useQuery({
    queryKey: keys.delivery(id),
    queryFn: () => unwrap<DeliveryView>(api.deliveries[':id'].$get({ param: { id } })),
    refetchInterval: ({ state }) => state.data?.state === 'building' && LOOK_AGAIN_MS,
  });

export function useCreateJob() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (json: { title: string; sheet: string; variant?: string | null; values?: Values }) =>
      unwrap<JobView>(api.jobs.$post({ json })),
    onSuccess: () => {
      void refresh(client, keys.targets);
      return refresh(client, keys.jobs);
    },
  });
}

/** Takes a job from the file that it was exported to. */
export function useImportJob() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (file: File) => {
      const body = { method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body: file };
      return unwrap<JobView>(fetch(`/api/jobs/import?name=${encodeURIComponent(file.name)}`, body));
    },
    onSuccess: () => {
      for (const key of [keys.targets, keys.shelf]) void refresh(client, key);
      return refresh(client, keys.jobs);
    },
  });
}

/** Makes a job of the same clips for another device. */
export const copyForDevice = (id: string, sheet: string, variant: string | null) =>
  unwrap<CopyView>(api.jobs[':id'].copies.$post({ param: { id }, json: { sheet, variant } }));

export const startDelivery = (jobId: string) =>
  unwrap<DeliveryView>(api.jobs[':id'].deliveries.$post({ param: { id: jobId } }));

export function useDeleteJob() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => unwrap(api.jobs[':id'].$delete({ param: { id } })),
    onSuccess: () => refresh(client, keys.jobs),
  });
}

export function useStartDelivery(jobId: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => startDelivery(jobId),
    onSuccess: () => refresh(client, keys.deliveries(jobId)),
  });
}

export const cancelDelivery = (id: string) =>
  unwrap<DeliveryView>(api.deliveries[':id'].cancel.$post({ param: { id } }));

/** Builds the files of a delivery once more and compares them. */
export const buildAgain = (id: string, signal: AbortSignal) =>
  unwrap<AgainView>(api.deliveries[':id'].again.$post({ param: { id } }, { init: { signal } }));

/** The source of another sound of the same file. */
export const sourceOfTrack = (id: string, track: number) =>
  unwrap<SourceView>(api.sources[':id'].again.$post({ param: { id }, json: { track } }));
