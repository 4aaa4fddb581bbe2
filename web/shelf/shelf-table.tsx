import { formatBytes, formatChannels, formatRate, formatSeconds, kindWords, remarksOn } from '@tambur/core';
import type { ShelfOrder, ShelfQuery, ShelfView } from '@tambur/server';
import { useQueryClient } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp, Play, Square } from 'lucide-react';
import {
  type KeyboardEvent,
  type MouseEvent,
  memo,
  type ReactNode,
  useCallback,
  useEffect,
  useRef,
  useState,
} from 'react';
import { expectSources, sourceKey, useSource } from '../api/shelf.ts';
import { SmallWaveform } from '../sound/small-waveform.tsx';
import { Button } from '../ui/button.tsx';
import { formatDay } from '../ui/dates.ts';
import { clicked, nothingSelected, type Selection } from '../ui/selection.ts';

interface Props {
  /** Ids of the sources in their order. */
  readonly order: readonly string[];
  readonly sorting: Pick<ShelfQuery, 'order' | 'isDescending'>;
  readonly onSort: (order: ShelfOrder) => void;
  readonly selection: Selection;
  readonly onSelect: (selection: Selection) => void;
  readonly playingId: string | null;
  readonly onPlay: (source: ShelfView) => void;
  readonly onDelete: () => void;
  readonly onRename: (source: ShelfView) => void;
}

const ROW = 44;

/** Rows that are asked for together, and before they are seen. */
const CHUNK = 50;
/** ms: whoever drags past more rows than that is not looking at them. */
const DRAGGED = 60;

interface Column {
  /** What it is sorted by. */
  readonly id: ShelfOrder;
  readonly header: string;
  readonly cell: (source: ShelfView) => ReactNode;
  /** Its width, and from which width of the table on it shows. */
  readonly width: string;
  readonly isFigure?: boolean;
}

const columns: readonly Column[] = [
  { id: 'name', header: 'Name', cell: (source) => <NameCell source={source} />, width: 'min-w-24 flex-[3]' },
  {
    id: 'kind',
    header: 'Kind',
    cell: ({ facts }) => kindWords(facts),
    width: 'hidden min-w-24 flex-[2] @2xl:block',
  },
  {
    id: 'rate',
    header: 'Rate',
    cell: ({ facts }) => formatRate(facts.sampleRate),
    width: 'hidden w-24 shrink-0 text-right @xl:block',
    isFigure: true,
  },
  {
    id: 'channels',
    header: 'Channels',
    cell: ({ facts }) => formatChannels(facts.channels),
    width: 'hidden w-20 shrink-0 @4xl:block',
  },
  {
    id: 'length',
    header: 'Length',
    cell: ({ facts: { frames, sampleRate } }) => formatSeconds(frames / sampleRate),
    width: 'w-24 shrink-0 text-right',
    isFigure: true,
  },
  {
    id: 'size',
    header: 'Size',
    cell: ({ facts }) => formatBytes(facts.bytes),
    width: 'hidden w-20 shrink-0 text-right @lg:block',
    isFigure: true,
  },
  {
    id: 'jobs',
    header: 'Jobs',
    cell: ({ usedBy }) => usedBy.length || '',
    width: 'hidden w-10 shrink-0 text-right @5xl:block',
    isFigure: true,
  },
  {
    id: 'added',
    header: 'Added',
    cell: ({ createdAt }) => formatDay(createdAt),
    width: 'hidden w-28 shrink-0 text-right @5xl:block',
    isFigure: true,
  },
];

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

/** Sources in a table that draws, and asks the server for, only the rows that are seen. */
export function ShelfTable({
  order,
  sorting,
  onSort,
  selection,
  onSelect,
  playingId,
  onPlay,
  onDelete,
  onRename,
}: Props) {
  const client = useQueryClient();
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: order.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const chunk = Math.floor((virtual.range?.startIndex ?? 0) / CHUNK);
  useEffect(() => {
    const wait = setTimeout(
      () => expectSources(client, order.slice(Math.max(0, chunk - 1) * CHUNK, (chunk + 2) * CHUNK)),
      DRAGGED,
    );
    return () => clearTimeout(wait);
  }, [client, order, chunk]);
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
      End: order.length,
    }[event.key];
    if (to !== undefined) {
      const next = order[Math.max(0, Math.min(order.length - 1, to))];
      if (!next) return;
      event.preventDefault();
      virtual.scrollToIndex(order.indexOf(next));
      if (event.ctrlKey && !event.shiftKey) setCurrent(next);
      else pick(next, event);
      return;
    }
    const row = client.getQueryData<ShelfView | null>(sourceKey(active ?? ''));
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
      aria-rowcount={order.length + 1}
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
        {columns.map(({ id, header, width }) => {
          const isSorted = sorting.order === id;
          return (
            // biome-ignore lint/a11y/useSemanticElements: as above
            // biome-ignore lint/a11y/useFocusableInteractive: its button is
            <span
              key={id}
              role="columnheader"
              aria-sort={isSorted ? (sorting.isDescending ? 'descending' : 'ascending') : 'none'}
              className={width}
            >
              <Button
                kind="bare"
                className="label inline-flex items-center gap-0.5 hover:text-ink"
                onClick={() => onSort(id)}
              >
                {header}
                {isSorted && !sorting.isDescending && <ArrowUp className="size-3" aria-hidden />}
                {isSorted && sorting.isDescending && <ArrowDown className="size-3" aria-hidden />}
              </Button>
            </span>
          );
        })}
      </div>
      {/* biome-ignore lint/a11y/useSemanticElements: as above */}
      <div role="rowgroup" ref={scroller} className="min-h-0 flex-1 overflow-y-auto">
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start }) => {
            const id = order[index];
            return (
              id !== undefined && (
                <SourceRow
                  key={id}
                  id={id}
                  index={index}
                  start={start}
                  isSelected={selection.ids.has(id)}
                  isPlaying={playingId === id}
                  isActive={active === id}
                  mayAsk={!virtual.isScrolling}
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
  readonly id: string;
  readonly index: number;
  /** Pixels from the top. */
  readonly start: number;
  readonly isSelected: boolean;
  readonly isPlaying: boolean;
  readonly isActive: boolean;
  /** False while there is no point in asking for what it shows. */
  readonly mayAsk: boolean;
  readonly onPick: (id: string, event: MouseEvent) => void;
  readonly onPlay: (source: ShelfView) => void;
}

/** One source. Drawn again only when something about it changes: scrolling draws the new rows alone. */
const SourceRow = memo(function SourceRow({
  id,
  index,
  start,
  isSelected,
  isPlaying,
  isActive,
  mayAsk,
  onPick,
  onPlay,
}: RowProps) {
  const { data: source } = useSource(id, mayAsk);
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
        {source && (
          <>
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
          </>
        )}
      </span>
      {columns.map((column) => (
        // biome-ignore lint/a11y/useSemanticElements: as above
        // biome-ignore lint/a11y/useFocusableInteractive: the grid has the focus
        <span key={column.id} role="gridcell" className={`truncate ${column.width} ${column.isFigure ? 'figure' : ''}`}>
          {source && column.cell(source)}
        </span>
      ))}
    </div>
  );
});
