import type { ShelfList, ShelfView } from '@tambur/server';
import { useQueryClient } from '@tanstack/react-query';
import { FolderPlus, Mic, Plus, Search, Speech } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { keys } from '../api/queries.ts';
import { refresh } from '../api/refresh.ts';
import { deleteSource, restoreSource, sourceKey, useShelfList } from '../api/shelf.ts';
import { ImportRows } from '../imports/import-rows.tsx';
import { Imports } from '../imports/import-store.ts';
import { LeavingGuard } from '../imports/leaving-guard.tsx';
import { FindPartsDialog } from '../parts/find-parts-dialog.tsx';
import { RecordDialog } from '../record/record-dialog.tsx';
import { useSourcePlayer } from '../sound/use-source-player.ts';
import { SpeakDialog } from '../speech/speak-dialog.tsx';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/field.tsx';
import { notify, notifyFailure } from '../ui/notify.tsx';
import { Select } from '../ui/select.tsx';
import { nothingSelected, pruned } from '../ui/selection.ts';
import { Failed, Loading } from '../ui/states.tsx';
import { useKey } from '../ui/use-key.ts';
import { filters } from './filters.ts';
import { RenameDialog } from './rename-dialog.tsx';
import { ShelfTable } from './shelf-table.tsx';
import { SourcePanel } from './source-panel.tsx';
import { LONGEST_SEARCH, useShelfQuery } from './use-shelf-query.ts';

type OpenDialog =
  | { readonly kind: 'record' }
  | { readonly kind: 'speak' }
  | { readonly kind: 'rename'; readonly source: ShelfView }
  | { readonly kind: 'parts'; readonly source: ShelfView };

/** Files that systems put into folders and nobody means. */
const isHidden = ({ name }: File) => name.startsWith('.') || /^(thumbs\.db|desktop\.ini)$/i.test(name);

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
  const player = useSourcePlayer();
  const searchField = useRef<HTMLInputElement>(null);
  const folderField = useRef<HTMLInputElement>(null);
  const selected = ids.filter((id) => selection.ids.has(id));

  // What is not seen is not selected: nothing is deleted that nobody sees.
  useEffect(() => {
    setSelection((before) => pruned(before, ids));
  }, [ids]);
  useKey('slash', () => searchField.current?.focus(), { preventDefault: true });

  const take = (files: readonly File[]) => imports.add(files.filter((file) => !isHidden(file)));
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: take,
    noClick: true,
    noKeyboard: true,
  });

  const remove = async () => {
    const [only] = selected;
    const name = only && client.getQueryData<ShelfView | null>(sourceKey(only))?.name;
    const results = await Promise.allSettled(selected.map(deleteSource));
    const gone = selected.filter((_, i) => results[i]?.status === 'fulfilled');
    for (const result of results) if (result.status === 'rejected') notifyFailure(result.reason);
    await reload();
    if (gone.length === 0) return;
    notify(gone.length === 1 && name ? `${name} deleted` : `${gone.length} sources deleted`, {
      label: 'Undo',
      onClick: () => void Promise.all(gone.map(restoreSource)).then(reload).catch(notifyFailure),
    });
  };

  return (
    <div
      {...getRootProps({ className: 'relative flex min-h-0 flex-1 flex-col lg:h-[calc(100dvh-2.9rem)] lg:flex-none' })}
    >
      <title>Shelf – Tambur</title>
      <h1 className="sr-only">Shelf</h1>
      <input {...getInputProps({ 'aria-label': 'Audio files' })} />
      <input
        ref={folderField}
        type="file"
        className="hidden"
        aria-label="A folder"
        // @ts-expect-error: chooses a folder in every browser, but is in no standard
        webkitdirectory=""
        onChange={(event) => {
          take([...(event.target.files ?? [])]);
          event.target.value = '';
        }}
      />
      {isDragActive && (
        <div className="absolute inset-0 z-40 flex items-center justify-center border-4 border-pine bg-paper/85 text-xl font-semibold">
          Drop files or folders onto the shelf
        </div>
      )}
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 border-b border-hairline px-3 py-2.5 sm:px-4">
        <div className="min-w-40 flex-1">
          <TextField
            ref={searchField}
            type="search"
            label="Search by name, tag or fact"
            isLabelHidden
            icon={<Search className="size-4" aria-hidden />}
            placeholder="Name, tag or fact ( / )"
            value={query.search}
            maxLength={LONGEST_SEARCH}
            onChange={(event) => setSearch(event.target.value)}
            onKeyDown={(event) => event.key === 'Escape' && setSearch('')}
          />
        </div>
        <Select label="Show" isLabelHidden value={query.filter} onChange={setFilter} options={filters} />
        <div className="flex flex-wrap gap-1.5 max-sm:text-sm">
          <Button onClick={open}>
            <Plus className="size-4" aria-hidden /> Files
          </Button>
          <Button onClick={() => folderField.current?.click()}>
            <FolderPlus className="size-4" aria-hidden /> Folder
          </Button>
          <Button onClick={() => setOpened({ kind: 'record' })}>
            <Mic className="size-4" aria-hidden /> Record
          </Button>
          <Button onClick={() => setOpened({ kind: 'speak' })}>
            <Speech className="size-4" aria-hidden /> Speak
          </Button>
        </div>
      </div>
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
              onDelete={() => void remove()}
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
              onDelete={() => void remove()}
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
