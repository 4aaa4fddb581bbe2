import type { SourceView } from '@tambur/server';
import { useState } from 'react';
import { sourceOfTrack } from '../api/queries.ts';
import { notifyFailure } from '../ui/notify.tsx';
import { Select } from '../ui/select.tsx';

interface Props {
  readonly source: SourceView;
  readonly isLabelHidden?: boolean;
  readonly onTrack: (other: SourceView) => void;
}

/** Of a file with several sounds, the others are one choice away; each is a source of its own. */
export function TrackChoice({ source, isLabelHidden = false, onTrack }: Props) {
  const [pending, setPending] = useState(false);
  const { tracks, track } = source.facts;
  if (tracks.length < 2) return null;
  const choose = async (wanted: number) => {
    setPending(true);
    try {
      onTrack(await sourceOfTrack(source.id, wanted));
    } catch (error) {
      notifyFailure(error);
    }
    setPending(false);
  };
  return (
    <div className="max-w-sm min-w-0">
      <Select
        isLabelHidden={isLabelHidden}
        label={`Sound, of ${tracks.length} in the file`}
        value={String(track)}
        options={tracks.map(({ title }, i) => ({ value: String(i), label: title }))}
        onChange={(value) => void choose(Number(value))}
      />
      {pending && (
        <p role="status" className="mt-1 text-sm text-graphite">
          decoding …
        </p>
      )}
    </div>
  );
}
