import { FolderPlus, Mic, Plus, Search, Speech } from 'lucide-react';
import { useRef } from 'react';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/field.tsx';
import { Select } from '../ui/select.tsx';
import { useKey } from '../ui/use-key.ts';
import { filters } from './filters.ts';
import { LONGEST_SEARCH, type useShelfQuery } from './use-shelf-query.ts';

interface Props {
  readonly wanted: ReturnType<typeof useShelfQuery>;
  readonly onTake: (files: readonly File[]) => void;
  /** Asks for files. */
  readonly onFiles: () => void;
  readonly onDialog: (dialog: { readonly kind: 'record' | 'speak' }) => void;
}

/** What is looked for on the shelf, and the ways in. */
export function ShelfBar({ wanted: { query, setSearch, setFilter }, onTake, onFiles, onDialog }: Props) {
  const searchField = useRef<HTMLInputElement>(null);
  const folderField = useRef<HTMLInputElement>(null);
  useKey('slash', () => searchField.current?.focus(), { preventDefault: true });
  return (
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
        <Button onClick={onFiles}>
          <Plus className="size-4" aria-hidden /> Files
        </Button>
        <Button onClick={() => folderField.current?.click()}>
          <FolderPlus className="size-4" aria-hidden /> Folder
        </Button>
        <Button onClick={() => onDialog({ kind: 'record' })}>
          <Mic className="size-4" aria-hidden /> Record
        </Button>
        <Button onClick={() => onDialog({ kind: 'speak' })}>
          <Speech className="size-4" aria-hidden /> Speak
        </Button>
      </div>
      <input
        ref={folderField}
        type="file"
        className="hidden"
        aria-label="A folder"
        // @ts-expect-error: chooses a folder in every browser, but is in no standard
        webkitdirectory=""
        onChange={(event) => {
          onTake([...(event.target.files ?? [])]);
          event.target.value = '';
        }}
      />
    </div>
  );
}
