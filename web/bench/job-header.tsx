import type { Target } from '@tambur/core';
import type { JobView } from '@tambur/server';
import { Redo2, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { useChangeVariant, useRenameJob } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { TitleField } from '../ui/field.tsx';
import { notifyFailure } from '../ui/notify.tsx';
import { Select } from '../ui/select.tsx';
import type { SaveState } from './autosave.ts';
import { type JobStore, useUndo } from './job-store.ts';

interface Props {
  readonly job: JobView;
  readonly target: Target;
  readonly variants: NonNullable<Target['variants']>;
  readonly store: JobStore;
  readonly save: SaveState;
}

/** Stands for the sheet itself. */
const USUAL = '';

/** The job's title, its device, undo and whether all is saved. */
export function JobHeader({ job, target, variants, store, save }: Props) {
  const change = useChangeVariant(job.id);
  const [title, setTitle] = useState(job.title);
  const rename = useRenameJob(job.id);
  const { past, future } = useUndo(store);
  const { undo, redo } = store.temporal.getState();

  const take = (wanted: string) => {
    setTitle(wanted);
    rename.mutate(wanted, {
      onError: (error) => {
        setTitle(title);
        notifyFailure(error);
      },
    });
  };

  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hairline px-4 py-2 sm:px-6">
      <h1 className="min-w-0">
        <TitleField label="Title of the job" className="text-xl font-bold" value={title} onChange={take} />
      </h1>
      <span className="text-sm text-graphite">for {target.name}</span>
      {variants.length > 0 && (
        <div className="text-sm">
          <Select
            label="Variant of the sheet"
            isLabelHidden
            value={job.variantId ?? USUAL}
            onChange={(id) => change.mutate(id === USUAL ? null : id, { onError: notifyFailure })}
            options={[
              { value: USUAL, label: 'usual variant' },
              ...variants.map(({ id, name }) => ({ value: id, label: name })),
            ]}
          />
        </div>
      )}
      <div className="ml-auto flex items-center gap-1">
        <span role="status" className={`mr-2 text-sm ${save.state === 'failed' ? 'text-brick' : 'text-graphite'}`}>
          {save.state === 'failed' ? `Not saved. ${save.message}` : save.state === 'saving' ? 'saving …' : 'saved'}
        </span>
        <Button kind="quiet" aria-label="Undo" title="Undo (Ctrl Z)" disabled={past === 0} onClick={() => undo()}>
          <Undo2 className="size-4" aria-hidden />
        </Button>
        <Button
          kind="quiet"
          aria-label="Redo"
          title="Redo (Ctrl Shift Z)"
          disabled={future === 0}
          onClick={() => redo()}
        >
          <Redo2 className="size-4" aria-hidden />
        </Button>
      </div>
    </div>
  );
}
