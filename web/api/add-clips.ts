import { LONGEST_NAME, type Wish } from '@tambur/core';
import type { JobView } from '@tambur/server';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, unwrap } from './client.ts';
import { keys } from './queries.ts';
import { refresh } from './refresh.ts';

/** A clip that is to be added: a piece of a source, or all of it. */
export interface NewClip {
  readonly sourceId: string;
  readonly name: string;
  readonly cut?: Wish<'cut'>;
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
              name: name.slice(0, LONGEST_NAME),
              pieces: [{ source: sourceId, ...(cut ? { cut } : {}), gapMs: 0 }],
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
