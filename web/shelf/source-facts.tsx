import type { SourceView } from '@tambur/server';
import { Fold } from '../ui/fold.tsx';
import { FactsLines, Remarks } from './facts-list.tsx';
import { TrackChoice } from './track-choice.tsx';

/** On the bench: what is odd about the source at once, all its facts on demand, and its other sounds. */
export function SourceFacts({ source, onTrack }: { source: SourceView; onTrack: (other: SourceView) => void }) {
  return (
    <div className="mt-1">
      <TrackChoice source={source} onTrack={onTrack} />
      <Remarks facts={source.facts} name={source.name} />
      <Fold title="All facts" className="max-w-xl">
        <FactsLines facts={source.facts} name={source.name} />
      </Fold>
    </div>
  );
}
