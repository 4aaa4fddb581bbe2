import {
  containerTitle,
  encodingTitle,
  type Facts,
  formatBytes,
  formatChannels,
  formatRate,
  formatSeconds,
  remarksOn,
} from '@tambur/core';
import type { ShelfView } from '@tambur/server';
import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  getSortedRowModel,
  type Row,
  type SortingState,
  useReactTable,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp, Play, Square } from 'lucide-react';
import { type KeyboardEvent, type MouseEvent, memo, useCallback, useEffect, useRef, useState } from 'react';
import { Button } from '../ui/button.tsx';
import { formatDay } from '../ui/dates.ts';
import { clicked, nothingSelected, type Selection } from './selection.ts';
import { SmallWaveform } from './small-waveform.tsx';

interface Props {
  readonly sources: readonly ShelfView[];
  readonly selection: Selection;
  readonly onSelect: (selection: Selection) => void;
  readonly playingId: string | null;
  readonly onPlay: (source: ShelfView) => void;
  readonly onDelete: () => void;
  readonly onRename: (source: ShelfView) => void;
}

const ROW = 44;

/** "24-bit signed PCM in WAV", "MP3": what a file is, as short as it goes. */
function shortKind({ container, encoding, certainty }: Facts): string {
  if (certainty === 'assumed') return `${encodingTitle(encoding)}, headerless`;
  const [inside, outside] = [encodingTitle(encoding), containerTitle(container)];
  return inside === outside ? inside : `${inside} in ${outside}`;
}

const column = createColumnHelper<ShelfView>();

const seconds = ({ frames, sampleRate }: Facts) => frames / sampleRate;

const columns = [
  column.accessor('name', {
    header: 'Name',
    sortingFn: 'alphanumeric',
    cell: ({ row: { original } }) => <NameCell source={original} />,
  }),
  column.accessor(({ facts }) => shortKind(facts), { id: 'kind', header: 'Kind' }),
  column.accessor(({ facts }) => facts.sampleRate, {
    id: 'rate',
    header: 'Rate',
    cell: ({ getValue }) => formatRate(getValue()),
  }),
  column.accessor(({ facts }) => facts.channels, {
    id: 'channels',
    header: 'Channels',
    cell: ({ getValue }) => formatChannels(getValue()),
  }),
  column.accessor(({ facts }) => seconds(facts), {
    id: 'length',
    header: 'Length',
    cell: ({ getValue }) => formatSeconds(getValue()),
  }),
  column.accessor(({ facts }) => facts.bytes, {
    id: 'size',
    header: 'Size',
    cell: ({ getValue }) => formatBytes(getValue()),
  }),
  column.accessor(({ usedBy }) => usedBy.length, {
    id: 'jobs',
    header: 'Jobs',
    cell: ({ getValue }) => getValue() || '',
  }),
  column.accessor('createdAt', {
    header: 'Added',
    cell: ({ getValue }) => formatDay(getValue()),
  }),
];

/** Width of each column, and from which width of the table on it shows. */
const widths: Readonly<Record<string, string>> = {
  name: 'min-w-24 flex-[3]',
  kind: 'hidden min-w-24 flex-[2] @2xl:block',
  rate: 'hidden w-24 shrink-0 text-right @xl:block',
  channels: 'hidden w-20 shrink-0 @4xl:block',
  length: 'w-24 shrink-0 text-right',
  size: 'hidden w-20 shrink-0 text-right @lg:block',
  jobs: 'hidden w-10 shrink-0 text-right @5xl:block',
  createdAt: 'hidden w-28 shrink-0 text-right @5xl:block',
};

const FIGURES = ['rate', 'length', 'size', 'jobs', 'createdAt'];

const SORTING = 'tambur.shelf-sorting';

const storedSorting = (): SortingState => {
  try {
    const stored: unknown = JSON.parse(localStorage.getItem(SORTING) ?? '');
    if (Array.isArray(stored)) return stored as SortingState;
  } catch {
    // Nothing kept, or nothing that can be used: the newest first.
  }
  return [{ id: 'createdAt', desc: true }];
};

function NameCell({ source }: { source: ShelfView }) {
  const remarks = remarksOn(source.facts, source.name);
  return (
    <span className="flex min-w-0 items-baseline gap-2">
      <span className="truncate" title={source.name}>
        {source.name}
      </span>
      {remarks.length > 0 && (
        <span className="shrink-0 text-sm text-saffron" title={remarks.join('\n')}>
          <span aria-hidden>!</span>
          <span className="sr-only">{remarks.join(' ')}</span>
        </span>
      )}
    </span>
  );
}

/** All sources in a table that draws only the rows that are seen. */
export function ShelfTable({ sources, selection, onSelect, playingId, onPlay, onDelete, onRename }: Props) {
  const [sorting, setSorting] = useState(storedSorting);
  useEffect(() => localStorage.setItem(SORTING, JSON.stringify(sorting)), [sorting]);
  const table = useReactTable({
    data: sources as ShelfView[],
    columns,
    state: { sorting },
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getRowId: ({ id }) => id,
    enableMultiSort: false,
  });
  const { rows } = table.getRowModel();
  const order = rows.map(({ id }) => id);
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  /** The row that the keyboard is on. */
  const [current, setCurrent] = useState<string | null>(null);
  const active = current !== null && order.includes(current) ? current : (order[0] ?? null);

  const pick = (id: string, event: MouseEvent | KeyboardEvent) => {
    setCurrent(id);
    onSelect(clicked(selection, order, id, { shift: event.shiftKey, ctrl: event.ctrlKey || event.metaKey }));
  };
  // Rows keep what they were given; it calls what is right at the time.
  const latest = useRef({ pick, onPlay });
  useEffect(() => {
    latest.current = { pick, onPlay };
  });
  const onPick = useCallback((id: string, event: MouseEvent) => latest.current.pick(id, event), []);
  const onPlayRow = useCallback((source: ShelfView) => latest.current.onPlay(source), []);

  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => {
    const at = active === null ? -1 : order.indexOf(active);
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? ROW) / ROW) - 1);
    const to = {
      ArrowDown: at + 1,
      ArrowUp: at - 1,
      PageDown: at + page,
      PageUp: at - page,
      Home: 0,
      End: rows.length,
    }[event.key];
    if (to !== undefined) {
      const next = order[Math.max(0, Math.min(rows.length - 1, to))];
      if (!next) return;
      event.preventDefault();
      virtual.scrollToIndex(order.indexOf(next));
      if (event.ctrlKey && !event.shiftKey) setCurrent(next);
      else pick(next, event);
      return;
    }
    const row = rows[at]?.original;
    if (event.key === 'a' && (event.ctrlKey || event.metaKey)) onSelect({ ids: new Set(order), anchor: active });
    else if (event.key === 'Escape') onSelect(nothingSelected);
    else if (event.key === 'Delete') onDelete();
    else if (event.key === 'F2' && row) onRename(row);
    else if (event.key === 'Enter' && row) onPlay(row);
    else if (event.key === ' ' && active) onSelect(clicked(selection, order, active, { shift: false, ctrl: true }));
    else return;
    event.preventDefault();
  };

  return (
    // biome-ignore lint/a11y/useSemanticElements: rows that are not seen are not in the document, which a table cannot say
    <div
      role="grid"
      aria-label="Sources"
      aria-rowcount={rows.length + 1}
      aria-multiselectable="true"
      aria-activedescendant={active ? `source-${active}` : undefined}
      tabIndex={0}
      onKeyDown={onKeyDown}
      className="@container flex min-h-0 flex-1 flex-col outline-offset-[-2px]"
    >
      {/* biome-ignore lint/a11y/useSemanticElements: as above */}
      {/* biome-ignore lint/a11y/useFocusableInteractive: the grid has the focus */}
      <div
        role="row"
        aria-rowindex={1}
        className="flex items-center gap-3 border-b border-l-4 border-b-ink border-l-transparent px-3 py-1.5"
      >
        {/* biome-ignore lint/a11y/useSemanticElements: as above */}
        {/* biome-ignore lint/a11y/useFocusableInteractive: the grid has the focus */}
        <span role="columnheader" className="w-24 shrink-0 @md:w-36">
          <span className="label">Sound</span>
        </span>
        {table.getFlatHeaders().map((header) => {
          const sorted = header.column.getIsSorted();
          return (
            // biome-ignore lint/a11y/useSemanticElements: as above
            // biome-ignore lint/a11y/useFocusableInteractive: its button is
            <span
              key={header.id}
              role="columnheader"
              aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : 'none'}
              className={widths[header.id]}
            >
              <Button
                kind="bare"
                className="label inline-flex items-center gap-0.5 hover:text-ink"
                onClick={header.column.getToggleSortingHandler()}
              >
                {flexRender(header.column.columnDef.header, header.getContext())}
                {sorted === 'asc' && <ArrowUp className="size-3" aria-hidden />}
                {sorted === 'desc' && <ArrowDown className="size-3" aria-hidden />}
              </Button>
            </span>
          );
        })}
      </div>
      {/* biome-ignore lint/a11y/useSemanticElements: as above */}
      <div role="rowgroup" ref={scroller} className="min-h-0 flex-1 overflow-y-auto">
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start }) => {
            const row = rows[index];
            return (
              row && (
                <SourceRow
                  key={row.id}
                  row={row}
                  index={index}
                  start={start}
                  isSelected={selection.ids.has(row.id)}
                  isPlaying={playingId === row.id}
                  isActive={active === row.id}
                  onPick={onPick}
                  onPlay={onPlayRow}
                />
              )
            );
          })}
        </div>
      </div>
    </div>
  );
}

interface RowProps {
  readonly row: Row<ShelfView>;
  readonly index: number;
  /** Pixels from the top. */
  readonly start: number;
  readonly isSelected: boolean;
  readonly isPlaying: boolean;
  readonly isActive: boolean;
  readonly onPick: (id: string, event: MouseEvent) => void;
  readonly onPlay: (source: ShelfView) => void;
}

/** One source. Drawn again only when something about it changes: scrolling draws the new rows alone. */
const SourceRow = memo(function SourceRow({
  row,
  index,
  start,
  isSelected,
  isPlaying,
  isActive,
  onPick,
  onPlay,
}: RowProps) {
  const { original: source, id } = row;
  return (
    // biome-ignore lint/a11y/useSemanticElements: as above
    // biome-ignore lint/a11y/useKeyWithClickEvents: the grid hears the keys
    // biome-ignore lint/a11y/useFocusableInteractive: the grid has the focus
    <div
      id={`source-${id}`}
      role="row"
      aria-rowindex={index + 2}
      aria-selected={isSelected}
      onClick={(event) => onPick(id, event)}
      className={`absolute inset-x-0 flex cursor-default select-none items-center gap-3 border-b border-b-hairline border-l-4 px-3 ${
        isSelected ? 'bg-pine-tint' : 'hover:bg-sheet'
      } ${isActive ? 'border-l-pine' : 'border-l-transparent'}`}
      style={{ height: ROW, transform: `translateY(${start}px)` }}
    >
      {/* biome-ignore lint/a11y/useSemanticElements: as above */}
      {/* biome-ignore lint/a11y/useFocusableInteractive: its button is */}
      <span role="gridcell" className="flex w-24 shrink-0 items-center gap-1 @md:w-36">
        <Button
          kind="bare"
          tabIndex={-1}
          aria-label={isPlaying ? `Stop ${source.name}` : `Play ${source.name}`}
          className="p-1.5 text-pine hover:bg-hairline/60"
          onClick={(event) => {
            event.stopPropagation();
            onPlay(source);
          }}
        >
          {isPlaying ? <Square className="size-4" aria-hidden /> : <Play className="size-4" aria-hidden />}
        </Button>
        <SmallWaveform waveform={source.waveform} />
      </span>
      {row.getVisibleCells().map((cell) => (
        // biome-ignore lint/a11y/useSemanticElements: as above
        // biome-ignore lint/a11y/useFocusableInteractive: the grid has the focus
        <span
          key={cell.id}
          role="gridcell"
          className={`truncate ${widths[cell.column.id]} ${FIGURES.includes(cell.column.id) ? 'figure' : ''}`}
        >
          {flexRender(cell.column.columnDef.cell, cell.getContext())}
        </span>
      ))}
    </div>
  );
});
