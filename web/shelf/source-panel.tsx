import type { ShelfView } from '@tambur/server';
import { useQueryClient } from '@tanstack/react-query';
import { Download, Pencil, Scissors, Trash2, X } from 'lucide-react';
import { Link, useNavigate } from 'react-router';
import { keys } from '../api/queries.ts';
import { refresh } from '../api/refresh.ts';
import { loadSources, useSource } from '../api/shelf.ts';
import { nameFromFile } from '../job/clip-edits.ts';
import { JobSelect, useJobChoice } from '../job/job-picker.tsx';
import { Button } from '../ui/button.tsx';
import { notifyFailure } from '../ui/notify.tsx';
import { FactsLines, Remarks } from './facts-list.tsx';
import { TrackChoice } from './track-choice.tsx';

interface Props {
  readonly ids: readonly string[];
  readonly onRename: (source: ShelfView) => void;
  readonly onDelete: () => void;
  readonly onFindParts: (source: ShelfView) => void;
  readonly onSelect: (id: string) => void;
  readonly onClose: () => void;
}

/** What is selected: the facts of one source, and what can be done with one or many. */
export function SourcePanel({ ids, onRename, onDelete, onFindParts, onSelect, onClose }: Props) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const choice = useJobChoice((jobId) => navigate(`/jobs/${jobId}`));
  const { data: source } = useSource(ids[0]);
  if (!source) return null;
  const isOne = ids.length === 1;
  const title = isOne ? source.name : `${ids.length} sources`;
  const add = async () => {
    const clips = (await loadSources(ids)).map(({ id, name }) => ({ sourceId: id, name: nameFromFile(name) }));
    await choice.add(clips, isOne ? nameFromFile(source.name) : 'New job');
  };

  return (
    <aside
      aria-label="Selected"
      className="flex min-h-full flex-col border-t border-ink lg:w-88 lg:border-t-0 lg:border-l lg:border-hairline"
    >
      <div className="flex items-start gap-2 border-b border-hairline px-4 py-2.5">
        <h2 className="min-w-0 flex-1 font-semibold break-words">{title}</h2>
        <Button kind="quiet" aria-label="Nothing selected" title="Select nothing (Esc)" onClick={onClose}>
          <X className="size-4" aria-hidden />
        </Button>
      </div>
      <div className="flex flex-wrap gap-1 border-b border-hairline px-3 py-2 text-sm">
        {isOne && (
          <>
            <Button kind="quiet" title="Rename (F2)" onClick={() => onRename(source)}>
              <Pencil className="size-3.5" aria-hidden /> Rename
            </Button>
            <Button kind="quiet" onClick={() => onFindParts(source)}>
              <Scissors className="size-3.5" aria-hidden /> Find parts
            </Button>
            <a
              href={`/api/sources/${source.id}/file`}
              className="inline-flex items-center gap-1.5 px-1.5 py-1 text-graphite hover:bg-hairline/60 hover:text-ink"
            >
              <Download className="size-3.5" aria-hidden /> Download
            </a>
          </>
        )}
        <Button kind="quiet" title="Delete (Del)" onClick={onDelete}>
          <Trash2 className="size-3.5" aria-hidden /> Delete
        </Button>
      </div>
      <div className="flex items-end gap-2 border-b border-hairline px-4 py-3">
        <div className="min-w-0 flex-1">
          <JobSelect choice={choice} />
        </div>
        <Button disabled={choice.isPending || !choice.value} onClick={() => void add().catch(notifyFailure)}>
          Add
        </Button>
      </div>
      {isOne && (
        <div className="px-4 py-3">
          <div className="mb-3 empty:hidden">
            <TrackChoice
              source={source}
              onTrack={async (other) => {
                await refresh(client, keys.shelf);
                onSelect(other.id);
              }}
            />
          </div>
          <Remarks facts={source.facts} name={source.name} />
          <div className="mt-3">
            <FactsLines facts={source.facts} name={source.name} />
          </div>
          {source.usedBy.length > 0 && (
            <>
              <h3 className="label mt-4">Used by</h3>
              <ul className="mt-1 text-sm">
                {source.usedBy.map(({ jobId, title: job, clips }) => (
                  <li key={jobId}>
                    <Link to={`/jobs/${jobId}`} className="underline underline-offset-2">
                      {job}
                    </Link>{' '}
                    <span className="text-graphite">({clips === 1 ? '1 clip' : `${clips} clips`})</span>
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
      )}
    </aside>
  );
}
