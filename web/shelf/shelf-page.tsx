import type { ShelfList, ShelfView } from '@tambur/server';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { keys } from '../api/queries.ts';
import { refresh } from '../api/refresh.ts';
import { useShelfList } from '../api/shelf.ts';
import { ImportRows } from '../imports/import-rows.tsx';
import { Imports } from '../imports/import-store.ts';
import { LeavingGuard } from '../imports/leaving-guard.tsx';
import { FindPartsDialog } from '../parts/find-parts-dialog.tsx';
import { RecordDialog } from '../record/record-dialog.tsx';
import { useSourcePlayer } from '../sound/use-source-player.ts';
import { SpeakDialog } from '../speech/speak-dialog.tsx';
import { Button } from '../ui/button.tsx';
import { notify, notifyFailure } from '../ui/notify.tsx';
import { nothingSelected, pruned } from '../ui/selection.ts';
import { Failed, Loading } from '../ui/states.tsx';
import { isLeftOut } from './left-out.ts';
import { RenameDialog } from './rename-dialog.tsx';
import { ShelfBar } from './shelf-bar.tsx';
import { ShelfTable } from './shelf-table.tsx';
import { SourcePanel } from './source-panel.tsx';
import { useDeletion } from './use-deletion.ts';
import { useShelfQuery } from './use-shelf-query.ts';

type OpenDialog =
  | { readonly kind: 'record' }
  | { readonly kind: 'speak' }
  | { readonly kind: 'rename'; readonly source: ShelfView }
  | { readonly kind: 'parts'; readonly source: ShelfView };

/** All sources: what came in, what it is, and the ways in. */
export function ShelfPage() {
  const wanted = useShelfQuery();
  const list = useShelfList(wanted.query);
  const { data, error } = list;
  useEffect(() => {
    if (data && error) notifyFailure(error);
  }, [data, error]);
  // What is there stays, with the imports that are under way, where it cannot be loaded again.
  if (data) return <Shelf list={data} wanted={wanted} />;
  if (error) return <Failed error={error} retry={() => void list.refetch()} />;
  return <Loading what="the shelf" />;
}

function Shelf({ list: { all, ids }, wanted }: { list: ShelfList; wanted: ReturnType<typeof useShelfQuery> }) {
  const { query, setSearch, setFilter, sortBy } = wanted;
  const client = useQueryClient();
  const reload = () => refresh(client, keys.shelf);
  const [imports] = useState(
    () =>
      new Imports(({ source, fileName }) => {
        // The same bytes are one source, whatever the file is called.
        if (source.name !== fileName) notify(`${fileName} is on the shelf already, as ${source.name}`);
        void reload();
      }),
  );
  const [selection, setSelection] = useState(nothingSelected);
  const [opened, setOpened] = useState<OpenDialog | null>(null);
  const remove = useDeletion(reload);
  const player = useSourcePlayer();
  const selected = ids.filter((id) => selection.ids.has(id));

  // What is not seen is not selected: nothing is deleted that nobody sees.
  useEffect(() => {
    setSelection((before) => pruned(before, ids));
  }, [ids]);

  const take = (files: readonly File[]) => imports.add(files.filter((file) => !isLeftOut(file.name)));
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: take,
    noClick: true,
    noKeyboard: true,
  });

  return (
    <div
      {...getRootProps({ className: 'relative flex min-h-0 flex-1 flex-col lg:h-[calc(100dvh-2.9rem)] lg:flex-none' })}
    >
      <title>Shelf – Tambur</title>
      <h1 className="sr-only">Shelf</h1>
      <input {...getInputProps({ 'aria-label': 'Audio files' })} />
      {isDragActive && (
        <div className="absolute inset-0 z-40 flex items-center justify-center border-4 border-pine bg-paper/85 text-xl font-semibold">
          Drop files or folders onto the shelf
        </div>
      )}
      <ShelfBar wanted={wanted} onTake={take} onFiles={open} onDialog={setOpened} />
      <ImportRows imports={imports} />
      {player.problem && (
        <p role="alert" className="border-b border-brick bg-brick-tint px-4 py-1">
          {player.problem}
        </p>
      )}
      {all === 0 ? (
        <EmptyShelf onOpen={open} />
      ) : (
        <div className="flex min-h-0 flex-1 flex-col lg:flex-row">
          <section aria-label="All sources" className="flex h-[70dvh] min-w-0 flex-1 flex-col lg:h-auto">
            <ShelfTable
              order={ids}
              sorting={query}
              onSort={sortBy}
              selection={selection}
              onSelect={setSelection}
              playingId={player.playingId}
              onPlay={(source) => player.toggle(source)}
              onDelete={() => void remove(selected)}
              onRename={(source) => setOpened({ kind: 'rename', source })}
            />
            {ids.length === 0 && (
              <p className="p-6 text-graphite">
                No source matches.{' '}
                <Button
                  kind="link"
                  onClick={() => {
                    setSearch('');
                    setFilter('all');
                  }}
                >
                  Show all
                </Button>
              </p>
            )}
            <p role="status" className="figure border-t border-hairline px-4 py-1 text-sm text-graphite">
              {ids.length === all ? `${all} sources` : `${ids.length} of ${all} sources`}
              {selection.ids.size > 1 && `, ${selection.ids.size} selected`}
            </p>
          </section>
          <div className="fixed inset-x-0 bottom-0 z-30 max-h-[48dvh] min-w-0 overflow-y-auto bg-paper lg:static lg:max-h-none">
            <SourcePanel
              ids={selected}
              onRename={(source) => setOpened({ kind: 'rename', source })}
              onDelete={() => void remove(selected)}
              onFindParts={(source) => setOpened({ kind: 'parts', source })}
              onSelect={(id) => setSelection({ ids: new Set([id]), anchor: id })}
              onClose={() => setSelection(nothingSelected)}
            />
          </div>
        </div>
      )}
      {opened?.kind === 'record' && (
        <RecordDialog onClose={() => setOpened(null)} onKeep={(file) => imports.add([file])} />
      )}
      {opened?.kind === 'speak' && <SpeakDialog onClose={() => setOpened(null)} onKeep={() => void reload()} />}
      {opened?.kind === 'rename' && <RenameDialog source={opened.source} onClose={() => setOpened(null)} />}
      {opened?.kind === 'parts' && <FindPartsDialog source={opened.source} onClose={() => setOpened(null)} />}
      <LeavingGuard imports={imports} text="If you leave now, the files that are not in yet are left out." />
    </div>
  );
}

function EmptyShelf({ onOpen }: { onOpen: () => void }) {
  return (
    <div className="m-4 flex min-h-64 flex-1 flex-col items-center justify-center gap-3 border-2 border-dashed border-rule bg-sheet p-6 text-center sm:m-6">
      <p className="text-lg font-semibold">The shelf is empty</p>
      <p className="max-w-prose text-sm text-graphite">
        Drop audio or video files here, or whole folders; record the microphone, or have a prompt spoken. Whatever comes
        in is kept as it is.
      </p>
      <Button kind="main" onClick={onOpen}>
        Choose files
      </Button>
    </div>
  );
}
