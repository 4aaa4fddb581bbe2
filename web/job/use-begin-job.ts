import type { Target, Values } from '@tambur/core';
import { useNavigate } from 'react-router';
import { useCreateJob } from '../api/queries.ts';
import { notifyFailure } from '../ui/notify.tsx';
import { leaveFiles } from './pending-files.ts';

/** Starts a job for a device with files, and opens its bench. */
export function useBeginJob() {
  const navigate = useNavigate();
  const create = useCreateJob();
  const begin = (
    { id, name }: Pick<Target, 'id' | 'name'>,
    files: readonly File[],
    variantId: string | null = null,
    values: Values = {},
  ) => {
    if (create.isPending) return;
    create.mutate(
      { title: name, sheet: id, variant: variantId, values },
      {
        onSuccess: (job) => {
          leaveFiles(job.id, files);
          navigate(`/jobs/${job.id}`);
        },
        onError: notifyFailure,
      },
    );
  };
  return { begin, isPending: create.isPending };
}
