import type { ShelfView } from '@tambur/server';
import { Search } from 'lucide-react';
import { useState } from 'react';
import { useShelf } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/field.tsx';
import { Modal } from '../ui/modal.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { filterShelf } from './filter.ts';
import { nothingSelected } from './selection.ts';
import { ShelfTable } from './shelf-table.tsx';
import { useShelfPlayer } from './use-shelf-player.ts';

interface Props {
  readonly onPick: (sources: readonly ShelfView[]) => void;
  readonly onClose: () => void;
}

const nothing = () => undefined;

/** Takes sources from the shelf into a job. */
export function PickDialog({ onPick, onClose }: Props) {
  const shelf = useShelf();
  const [search, setSearch] = useState('');
  const [selection, setSelection] = useState(nothingSelected);
  const player = useShelfPlayer();
  const chosen = (shelf.data ?? []).filter(({ id }) => selection.ids.has(id));
  return (
    <Modal
      wide
      title="From the shelf"
      onClose={onClose}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button
            kind="main"
            disabled={chosen.length === 0}
            onClick={() => {
              onPick(chosen);
              onClose();
            }}
          >
            {chosen.length > 1 ? `Add ${chosen.length} clips` : 'Add 1 clip'}
          </Button>
        </>
      }
    >
      {shelf.error && <Failed error={shelf.error} retry={() => void shelf.refetch()} />}
      {!shelf.data && !shelf.error && <Loading what="the shelf" />}
      {shelf.data && (
        <>
          <TextField
            type="search"
            label="Search by name, tag or fact"
            isLabelHidden
            icon={<Search className="size-4" aria-hidden />}
            data-autofocus
            placeholder="Name, tag or fact"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
          />
          <div className="mt-3 flex h-[55dvh] flex-col border-b border-hairline">
            <ShelfTable
              sources={filterShelf(shelf.data, search, 'all')}
              selection={selection}
              onSelect={setSelection}
              playingId={player.playingId}
              onPlay={player.toggle}
              onDelete={nothing}
              onRename={nothing}
            />
          </div>
          <p className="mt-2 text-sm text-graphite">Shift and Ctrl select several.</p>
        </>
      )}
    </Modal>
  );
}
