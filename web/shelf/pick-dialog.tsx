import type { ShelfView } from '@tambur/server';
import { Search } from 'lucide-react';
import { useState } from 'react';
import { loadSources, useShelfList } from '../api/shelf.ts';
import { useSourcePlayer } from '../sound/use-source-player.ts';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/field.tsx';
import { Modal } from '../ui/modal.tsx';
import { notifyFailure } from '../ui/notify.tsx';
import { nothingSelected } from '../ui/selection.ts';
import { Failed, Loading } from '../ui/states.tsx';
import { ShelfTable } from './shelf-table.tsx';
import { LONGEST_SEARCH, useShelfQuery } from './use-shelf-query.ts';

interface Props {
  /** True: one source is taken, and no clip made of it. */
  readonly isOne?: boolean;
  readonly onPick: (sources: readonly ShelfView[]) => void;
  readonly onClose: () => void;
}

const nothing = () => undefined;

/** Takes sources from the shelf. */
export function PickDialog({ isOne = false, onPick, onClose }: Props) {
  const { query, setSearch, sortBy } = useShelfQuery();
  const list = useShelfList(query);
  const [selection, setSelection] = useState(nothingSelected);
  const player = useSourcePlayer();
  const ids = list.data?.ids ?? [];
  // What was chosen stays chosen while the search goes on to something else.
  const chosen = [...selection.ids];
  const pick = async () => {
    onPick(await loadSources(chosen));
    onClose();
  };
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
            disabled={isOne ? chosen.length !== 1 : chosen.length === 0}
            onClick={() => void pick().catch(notifyFailure)}
          >
            {isOne ? 'Take this source' : chosen.length > 1 ? `Add ${chosen.length} clips` : 'Add 1 clip'}
          </Button>
        </>
      }
    >
      {list.error && <Failed error={list.error} retry={() => void list.refetch()} />}
      {!list.data && !list.error && <Loading what="the shelf" />}
      {list.data && (
        <>
          <TextField
            type="search"
            label="Search by name, tag or fact"
            isLabelHidden
            icon={<Search className="size-4" aria-hidden />}
            data-autofocus
            placeholder="Name, tag or fact"
            value={query.search}
            maxLength={LONGEST_SEARCH}
            onChange={(event) => setSearch(event.target.value)}
          />
          <div className="mt-3 flex h-[55dvh] flex-col border-b border-hairline">
            <ShelfTable
              order={ids}
              sorting={query}
              onSort={sortBy}
              selection={selection}
              onSelect={setSelection}
              playingId={player.playingId}
              onPlay={(source) => player.toggle(source)}
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
