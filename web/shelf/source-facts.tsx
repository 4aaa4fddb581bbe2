import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/react';
import type { SourceView } from '@tambur/server';
import { ChevronRight } from 'lucide-react';
import { FactsLines, Remarks } from './facts-list.tsx';
import { TrackChoice } from './track-choice.tsx';

/** On the bench: what is odd about the source at once, all its facts on demand, and its other sounds. */
export function SourceFacts({ source, onTrack }: { source: SourceView; onTrack: (other: SourceView) => void }) {
  return (
    <div className="mt-1">
      <TrackChoice source={source} onTrack={onTrack} />
      <Remarks facts={source.facts} name={source.name} />
      <Disclosure>
        <DisclosureButton className="group inline-flex items-center gap-1 text-sm text-graphite hover:text-ink">
          <ChevronRight className="size-3.5 group-data-open:rotate-90" aria-hidden /> All facts
        </DisclosureButton>
        <DisclosurePanel className="mt-1 max-w-xl">
          <FactsLines facts={source.facts} name={source.name} />
        </DisclosurePanel>
      </Disclosure>
    </div>
  );
}
