import { type Target, withVariant } from '@tambur/core';
import { CopyPlus, Redo2, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { NavLink } from 'react-router';
import { useStore } from 'zustand';
import type { JobStore } from '../job/job-store.ts';
import type { Saving } from '../job/use-job-sync.ts';
import { useActs } from '../ui/acts.ts';
import { Button } from '../ui/button.tsx';
import { TitleField } from '../ui/field.tsx';
import { Select } from '../ui/select.tsx';
import { HistoryMenu } from './history-menu.tsx';
import { KeyMap } from './key-map.tsx';
import { withKey } from './keys.ts';
import { OtherDevices } from './other-devices.tsx';

interface Props {
  readonly jobId: string;
  readonly target: Target;
  /** With all its variants. */
  readonly sheet: Target;
  readonly store: JobStore;
  readonly saving: Saving;
}

/** One clip at a time, or all of them as a table. */
const VIEWS = [
  { label: 'Bench', to: '' },
  { label: 'Set', to: '/set' },
] as const;

/** Stands for the sheet itself. */
const USUAL = '';

/** The job's title, its device, undo and whether all is saved. */
export function JobHeader({ jobId, target, sheet, store, saving }: Props) {
  const { title, variant, values } = useStore(store, ({ job }) => job);
  const history = useStore(store, (state) => state.history);
  const hasPending = useStore(store, ({ pending }) => pending.length > 0);
  const { rename, setVariant } = store.getState();
  const { save, undo, redo } = saving;
  const { variants } = sheet;
  const [isCopying, setCopying] = useState(false);
  useActs([{ label: 'For another device …', go: () => setCopying(true) }]);
  const chooseVariant = (id: string | null) => {
    const asked = withVariant(sheet, id).blanks.map((blank) => blank.id);
    setVariant(
      id,
      Object.keys(values).filter((blank) => !asked.includes(blank)),
    );
  };

  return (
    <div className="flex items-center gap-x-3 border-b border-hairline px-4 py-1 max-sm:flex-wrap sm:gap-x-4 sm:px-6 print:hidden">
      <h1 className="min-w-24 shrink max-sm:flex-1">
        <TitleField
          label="Title of the job"
          className="text-xl font-bold text-ellipsis"
          value={title}
          onChange={rename}
        />
      </h1>
      <span className="min-w-0 truncate text-sm text-graphite max-sm:hidden" title={target.name}>
        for {target.name}
      </span>
      {variants.length > 0 && (
        <div className="min-w-0 text-sm max-sm:order-2">
          <Select
            label="Variant of the sheet"
            isLabelHidden
            value={variant ?? USUAL}
            onChange={(id) => chooseVariant(id === USUAL ? null : id)}
            options={[
              { value: USUAL, label: 'usual variant' },
              ...variants.map(({ id, name }) => ({ value: id, label: name })),
            ]}
          />
        </div>
      )}
      <nav className="flex shrink-0 text-sm max-sm:order-2" aria-label="Ways to look at the job">
        {VIEWS.map(({ label, to }) => (
          <NavLink
            key={label}
            end
            to={`/jobs/${jobId}${to}`}
            className={({ isActive }) =>
              `border-b-2 px-2 py-1 ${isActive ? 'border-pine font-semibold' : 'border-transparent text-graphite hover:text-ink'}`
            }
          >
            {label}
          </NavLink>
        ))}
      </nav>
      <div className="ml-auto flex shrink-0 items-center max-sm:order-1 sm:gap-1">
        <span
          role="status"
          className={`text-sm sm:mr-2 ${save.state === 'failed' ? '' : 'max-sm:sr-only'} ${save.state === 'failed' ? 'text-brick' : 'text-graphite'}`}
        >
          {save.state === 'failed' ? `Not saved. ${save.message}` : save.state === 'saving' ? 'saving …' : 'saved'}
        </span>
        <Button
          kind="quiet"
          aria-label="Undo"
          title={withKey('Undo', 'undo')}
          // What is on its way to the server can be undone as well.
          disabled={history.undo === 0 && !hasPending && save.state !== 'saving'}
          onClick={undo}
        >
          <Undo2 className="size-4" aria-hidden />
        </Button>
        <Button
          kind="quiet"
          aria-label="Redo"
          title={withKey('Redo', 'redo')}
          disabled={history.redo === 0 || hasPending}
          onClick={redo}
        >
          <Redo2 className="size-4" aria-hidden />
        </Button>
        <Button
          kind="quiet"
          aria-label="For another device"
          title="For another device …"
          onClick={() => setCopying(true)}
        >
          <CopyPlus className="size-4" aria-hidden />
        </Button>
        <HistoryMenu store={store} saving={saving} />
        <KeyMap />
      </div>
      {isCopying && (
        <OtherDevices jobId={jobId} sheet={target} saveNow={saving.saveNow} onClose={() => setCopying(false)} />
      )}
    </div>
  );
}
