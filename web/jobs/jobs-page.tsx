import type { JobSummary } from '@tambur/server';
import { lazy, Suspense, useRef, useState } from 'react';
import { useDeleteJob, useImportJob, useJobs, useTargets } from '../api/queries.ts';
import { deviceOf } from '../job/variants.ts';
import { Button } from '../ui/button.tsx';
import { notify, notifyFailure } from '../ui/notify.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { JobCard } from './job-card.tsx';
import { StartJob } from './start-job.tsx';

const Confirm = lazy(async () => ({ default: (await import('../ui/confirm.tsx')).Confirm }));

/** The first screen: start a job, or go on with one. */
export function JobsPage() {
  const targets = useTargets();
  const jobs = useJobs();
  const remove = useDeleteJob();
  const [toDelete, setToDelete] = useState<JobSummary | null>(null);

  const failed = targets.error ?? jobs.error;
  if (failed) {
    return (
      <Failed
        error={failed}
        retry={() => {
          void targets.refetch();
          void jobs.refetch();
        }}
      />
    );
  }
  if (!targets.data || !jobs.data) return <Loading what="jobs" />;

  return (
    <>
      <title>Jobs – Tambur</title>
      <h1 className="sr-only">Jobs</h1>
      <StartJob targets={targets.data} />
      <section aria-labelledby="jobs" className="mx-auto w-full max-w-6xl px-4 py-6 sm:px-6">
        <div className="flex items-baseline gap-4">
          <h2 id="jobs" className="text-lg font-semibold">
            Jobs
          </h2>
          <ImportJob />
          <a
            href="/api/backup"
            download
            title="All sources, jobs and deliveries in one file; ./start --from puts them into a new folder"
            className="ml-auto text-sm text-graphite underline-offset-2 hover:text-ink hover:underline"
          >
            Back up everything
          </a>
        </div>
        {jobs.data.length === 0 ? (
          <p className="mt-2 text-graphite">Nothing here yet. Drop audio above, and the first job appears.</p>
        ) : (
          <ul className="mt-3 grid gap-4 sm:grid-cols-2 lg:grid-cols-3">
            {jobs.data.map((job) => (
              <JobCard key={job.id} job={job} device={deviceOf(targets.data, job)} onDelete={() => setToDelete(job)} />
            ))}
          </ul>
        )}
      </section>
      {toDelete && (
        <Suspense fallback={null}>
          <Confirm
            title={`Delete the job ${toDelete.title}?`}
            text="Its clips and deliveries are deleted with it. The sources stay on the shelf."
            action="Delete the job"
            refusal="Keep it"
            onClose={() => setToDelete(null)}
            onConfirm={() => {
              remove.mutate(toDelete.id, { onError: notifyFailure });
              setToDelete(null);
            }}
          />
        </Suspense>
      )}
    </>
  );
}

/** Takes a job that was exported, here or elsewhere. */
function ImportJob() {
  const take = useImportJob();
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button kind="quiet" className="text-sm" disabled={take.isPending} onClick={() => field.current?.click()}>
        {take.isPending ? 'Importing …' : 'Import …'}
      </Button>
      <input
        ref={field}
        type="file"
        accept=".zip"
        aria-label="Exported job"
        className="hidden"
        onChange={({ target }) => {
          const file = target.files?.[0];
          target.value = '';
          if (file)
            take.mutate(file, { onError: notifyFailure, onSuccess: ({ job }) => notify(`${job.title} imported`) });
        }}
      />
    </>
  );
}
