import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import type { StepView } from '@tambur/server';
import { History } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import type { JobStore } from '../job/job-store.ts';
import type { Saving } from '../job/use-job-sync.ts';
import { Button } from '../ui/button.tsx';
import { notifyFailure } from '../ui/notify.tsx';

interface Props {
  readonly store: JobStore;
  readonly saving: Saving;
}

/** Every step of the job that can be gone back to, newest first. */
export const HistoryMenu = (props: Props) => (
  <Popover className="max-sm:hidden">
    <PopoverButton as={Button} kind="quiet" aria-label="Steps" title="Steps: go back to any of them">
      <History className="size-4" aria-hidden />
    </PopoverButton>
    <PopoverPanel
      anchor={{ to: 'bottom end', padding: 8 }}
      className="z-40 max-h-[70dvh] w-96 overflow-y-auto border border-ink bg-paper py-1 outline-none"
    >
      <Steps {...props} />
    </PopoverPanel>
  </Popover>
);

function Steps({ store, saving }: Props) {
  const [steps, setSteps] = useState<readonly StepView[] | null>(null);
  // Whatever changes the job changes the list.
  const history = useStore(store, (state) => state.history);
  const load = saving.steps;
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is loaded again when there are other steps
  useEffect(() => {
    load().then(setSteps, notifyFailure);
  }, [history.undo, history.redo]);
  if (!steps) return <p className="px-4 py-2 text-sm text-graphite">looking …</p>;
  const last = steps.findLast(({ isMade }) => isMade)?.revision ?? 0;
  const rows = [...steps.toReversed(), { revision: 0, words: 'Before all of these', isMade: true }];
  return (
    <ol aria-label="Steps of the job">
      {rows.map(({ revision, words, isMade }) => (
        <li key={revision}>
          <Button
            kind="bare"
            aria-current={revision === last ? 'step' : undefined}
            onClick={() => saving.goTo(revision)}
            className={`flex w-full items-baseline gap-2 px-4 py-1 text-left text-sm hover:bg-pine-tint ${isMade ? '' : 'text-graphite'} ${revision === last ? 'bg-pine-tint font-semibold' : ''}`}
          >
            <span className="min-w-0 flex-1 truncate first-letter:uppercase" title={words}>
              {words}
            </span>
            {!isMade && <span className="shrink-0 text-xs">undone</span>}
            {revision === last && <span className="shrink-0 text-xs">now</span>}
          </Button>
        </li>
      ))}
    </ol>
  );
}
