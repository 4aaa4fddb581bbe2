import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { remarksOn } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { ChevronDown, TriangleAlert } from 'lucide-react';
import type { ReactNode } from 'react';
import { FactsLines, Remarks } from './facts-list.tsx';
import { TrackChoice } from './track-choice.tsx';

/** On the bench, on one line: what is odd about the source, all its facts on demand, and its other sounds. */
export function SourceFacts({ source, onTrack }: { source: SourceView; onTrack: (other: SourceView) => void }) {
  const { facts, name } = source;
  const remarks = remarksOn(facts, name);
  return (
    <div className="flex min-w-0 shrink-0 items-center gap-x-3">
      {remarks.length > 0 && (
        <OnDemand
          className="min-w-0 border-l-4 border-saffron-mark bg-saffron-tint px-2"
          hint={remarks.join(' ')}
          title={
            <>
              <TriangleAlert className="size-3.5 shrink-0 text-saffron" aria-hidden />
              <span className="shrink-0 font-medium">
                {remarks.length}
                <span className="max-sm:sr-only">{remarks.length === 1 ? ' remark' : ' remarks'}</span>
              </span>
            </>
          }
        >
          <Remarks facts={facts} name={name} />
        </OnDemand>
      )}
      <TrackChoice source={source} isLabelHidden onTrack={onTrack} />
      <OnDemand
        className="ml-auto shrink-0 text-graphite hover:text-ink"
        title={<span className="max-sm:sr-only">All facts</span>}
      >
        <FactsLines facts={facts} name={name} />
      </OnDemand>
    </div>
  );
}

interface OnDemandProps {
  readonly title: ReactNode;
  /** Said to those who point at it. */
  readonly hint?: string;
  readonly className: string;
  readonly children: ReactNode;
}

/** What is laid over the bench on demand, so that nothing on it moves. */
function OnDemand({ title, hint, className, children }: OnDemandProps) {
  return (
    <Popover className={`flex ${className}`}>
      <PopoverButton title={hint} className="flex min-w-0 items-center gap-1.5 py-0.5 text-left text-sm">
        {title}
        <ChevronDown className="size-3.5 shrink-0" aria-hidden />
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'bottom end', gap: 4, padding: 8 }}
        className="z-50 w-xl max-w-[calc(100vw-1rem)] border border-ink bg-paper p-3"
      >
        {children}
      </PopoverPanel>
    </Popover>
  );
}
