import type { Target } from '@tambur/core';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { useCreateJob } from '../api/queries.ts';
import { leaveFiles } from '../imports/pending-files.ts';

/** Starts a job for a device with files, and opens its bench. */
export function useBeginJob() {
  const navigate = useNavigate();
  const create = useCreateJob();
  const begin = (
    { id, name }: Pick<Target, 'id' | 'name'>,
    files: readonly File[],
    variantId: string | null = null,
  ) => {
    if (create.isPending) return;
    create.mutate(
      { title: name, targetId: id, variantId },
      {
        onSuccess: (job) => {
          leaveFiles(job.id, files);
          navigate(`/jobs/${job.id}`);
        },
        onError: (error) => toast.error(error.message),
      },
    );
  };
  return { begin, isPending: create.isPending };
}
