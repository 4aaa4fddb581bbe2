import { automaticSettings, type ClipSettings } from '@tambur/core';
import type { JobView } from '@tambur/server';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, unwrap } from './client.ts';
import { keys } from './queries.ts';
import { refresh } from './refresh.ts';

/** A clip that is to be added: a piece of a source, or all of it. */
export interface NewClip {
  readonly sourceId: string;
  readonly name: string;
  readonly cut?: ClipSettings['cut'];
}

/** Adds clips after those that a job has. */
export function useAddClips() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ jobId, clips }: { jobId: string; clips: readonly NewClip[] }) =>
      unwrap<JobView>(
        api.jobs[':id'].clips.$post({
          param: { id: jobId },
          json: {
            clips: clips.map(({ sourceId, name, cut }) => ({
              sourceId,
              settings: { ...automaticSettings(name.slice(0, 120)), ...(cut ? { cut } : {}) },
            })),
          },
        }),
      ),
    onSuccess: () => {
      void refresh(client, keys.jobs);
      void refresh(client, keys.shelf);
    },
  });
}
