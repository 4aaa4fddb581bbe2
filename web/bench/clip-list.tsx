import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { placeWords, type RankedClip, type Target } from '@tambur/core';
import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { ImportRows } from '../imports/import-rows.tsx';
import type { Imports } from '../imports/import-store.ts';
import type { JobStore } from '../job/job-store.ts';
import type { SettledSet } from '../job/set.ts';
import type { Act } from '../ui/acts.ts';
import { AddMenu } from './add-menu.tsx';
import { ClipMenu } from './clip-menu.tsx';
import { ClipRow, ROW_HEIGHT } from './clip-row.tsx';

/** The device's numbers for a clip; counted from 1 if it has no places of its own. */
function slotAt(target: Target, { placing }: SettledSet, id: string, index: number) {
  if (!target.places) return { number: String(index + 1), words: null };
  const numbers = [...placing].flatMap(([number, clip]) => (clip === id ? [number] : []));
  return {
    number: numbers.join(' '),
    words: numbers.flatMap((number) => placeWords(target, number) ?? []).join('; '),
  };
}

interface Props {
  readonly store: JobStore;
  readonly clips: readonly RankedClip[];
  readonly set: SettledSet;
  readonly target: Target;
  readonly selectedId: string | null;
  readonly imports: Imports;
  readonly waysIn: readonly Act[];
  readonly onRemove: (ids: readonly string[]) => void;
  /** Called when one has been picked by hand. */
  readonly onPick: () => void;
}

/** The clips of the job in their order: pick some, move, copy and remove them, add more. Only the rows that are seen are there. */
export function ClipList({ store, clips, set, target, selectedId, imports, waysIn, onRemove, onPick }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const { ids: picked } = useStore(store, ({ selection }) => selection);
  const { select, moveClip, movePicked } = store.getState();
  const list = useRef<HTMLDivElement>(null);
  const [dragged, setDragged] = useState<number | null>(null);
  const isPickedDragged = dragged !== null && picked.has(clips[dragged]?.id ?? '');
  const shown = clips.findIndex(({ id }) => id === selectedId);
  const virtual = useVirtualizer({
    count: clips.length,
    getScrollElement: () => list.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
    // What is being dragged stays, however far that goes.
    rangeExtractor: (range) => [...new Set([...defaultRangeExtractor(range), ...(dragged === null ? [] : [dragged])])],
  });

  // Whatever puts a clip on the bench, it is seen.
  useEffect(() => {
    if (shown >= 0) virtual.scrollToIndex(shown);
    // Where a key has chosen it, the next key is for it.
    if (list.current?.contains(document.activeElement)) {
      list.current.querySelector<HTMLElement>('[aria-current=true]')?.focus();
    }
  }, [virtual, shown]);

  const moved = ({ active, over }: DragEndEvent) => {
    setDragged(null);
    if (!over) return;
    const placeOf = (id: unknown) => clips.findIndex((clip) => clip.id === id);
    moveClip(String(active.id), String(over.id), placeOf(over.id) > placeOf(active.id));
  };

  /** Up and Down put the next clip on the bench, with Shift pick it too, and with Alt move those that are picked. */
  const keyed = (event: KeyboardEvent) => {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    const isHandle = event.target instanceof HTMLElement && event.target.hasAttribute('aria-roledescription');
    if (isHandle) return;
    if (step !== 0) {
      event.preventDefault();
      const next = clips[shown + step];
      if (event.altKey) movePicked(step);
      else if (next) select(next.id, { shift: event.shiftKey, ctrl: false });
    } else if (event.key === 'Delete') onRemove([...picked]);
    else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      store.getState().selectAll();
    }
  };

  return (
    <>
      <div className="flex items-center justify-between px-3 pt-3 pb-1">
        <h2 className="label">
          Clips <span className="figure ml-1">{clips.length}</span>
        </h2>
        <span className="flex items-center">
          <AddMenu ways={waysIn} />
          <ClipMenu store={store} clips={clips} onRemove={onRemove} />
        </span>
      </div>
      <ImportRows imports={imports} />
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragStart={({ active }) => setDragged(clips.findIndex(({ id }) => id === active.id))}
        onDragEnd={moved}
        onDragCancel={() => setDragged(null)}
      >
        <SortableContext items={clips.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
          <div ref={list} className="min-h-24 flex-1 overflow-y-auto">
            <ol className="relative" style={{ height: virtual.getTotalSize() }} aria-label="Clips" onKeyDown={keyed}>
              {virtual.getVirtualItems().map(({ index }) => {
                const clip = clips[index];
                return (
                  clip && (
                    <ClipRow
                      key={clip.id}
                      clip={clip}
                      index={index}
                      slot={slotAt(target, set, clip.id, index)}
                      count={clips.length}
                      settled={set.settled.get(clip.id)}
                      seconds={set.seconds.get(clip.id)}
                      trouble={set.troubles.get(clip.id)}
                      mostBytes={set.mostBytes}
                      isShown={clip.id === selectedId}
                      isPicked={picked.has(clip.id) && picked.size > 1}
                      isTakenAlong={isPickedDragged && index !== dragged && picked.has(clip.id)}
                      onPick={(held) => {
                        select(clip.id, held);
                        if (!held.shift && !held.ctrl) onPick();
                      }}
                      onRemove={() => onRemove([clip.id])}
                    />
                  )
                );
              })}
            </ol>
          </div>
        </SortableContext>
      </DndContext>
    </>
  );
}
