import type { JobSummary } from '@tambur/server';
import { useState } from 'react';
import { type NewClip, useAddClips } from '../api/add-clips.ts';
import { useCreateJob, useJobs, useTargets } from '../api/queries.ts';
import { notify, notifyFailure } from '../ui/notify.tsx';
import { Select } from '../ui/select.tsx';

const NEW = 'new:';
const LAST_JOB = 'tambur.last-job';

/** Which job clips go to: one that is there, or a new one for a device. */
export interface JobChoice {
  readonly value: string;
  readonly options: readonly { readonly value: string; readonly label: string }[];
  readonly choose: (value: string) => void;
  /** Adds the clips; says so when they are there, and gives the job's id. */
  readonly add: (clips: readonly NewClip[], title: string) => Promise<string | null>;
  readonly isPending: boolean;
}

const clipWords = (count: number) => (count === 1 ? '1 clip' : `${count} clips`);

export function useJobChoice(onOpen: (jobId: string) => void): JobChoice {
  const jobs = useJobs();
  const targets = useTargets();
  const create = useCreateJob();
  const addClips = useAddClips();
  const [chosen, setChosen] = useState(() => localStorage.getItem(LAST_JOB));
  const options = [
    ...(jobs.data ?? []).map(({ id, title }: JobSummary) => ({ value: id, label: title })),
    ...(targets.data ?? []).map(({ id, name }) => ({ value: `${NEW}${id}`, label: `New job: ${name}` })),
  ];
  const value = options.find((option) => option.value === chosen)?.value ?? options[0]?.value ?? '';

  const add = async (clips: readonly NewClip[], title: string): Promise<string | null> => {
    if (!value || clips.length === 0) return null;
    try {
      const jobId = value.startsWith(NEW)
        ? (await create.mutateAsync({ title, sheet: value.slice(NEW.length) })).id
        : value;
      const { id, job } = await addClips.mutateAsync({ jobId, clips });
      localStorage.setItem(LAST_JOB, id);
      setChosen(id);
      notify(`${clipWords(clips.length)} added to ${job.title}`, { label: 'Open', onClick: () => onOpen(id) });
      return id;
    } catch (error) {
      notifyFailure(error);
      return null;
    }
  };
  return { value, options, choose: setChosen, add, isPending: create.isPending || addClips.isPending };
}

export function JobSelect({ choice }: { choice: JobChoice }) {
  return <Select label="Job" value={choice.value} options={choice.options} onChange={choice.choose} />;
}
