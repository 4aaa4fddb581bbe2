import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { formatSeconds, type RankedClip } from '@tambur/core';
import { GripVertical, X } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { ImportRows } from '../imports/import-rows.tsx';
import type { Imports } from '../imports/import-store.ts';
import { Button } from '../ui/button.tsx';
import { AddMenu, type WayIn } from './add-menu.tsx';
import type { JobStore } from './job-store.ts';
import type { SettledSet } from './set.ts';

interface Props {
  readonly store: JobStore;
  readonly clips: readonly RankedClip[];
  readonly set: SettledSet;
  readonly selectedId: string | null;
  readonly imports: Imports;
  readonly waysIn: readonly WayIn[];
  readonly onRemove: (id: string) => void;
  /** Called when one has been picked by hand. */
  readonly onPick: () => void;
}

/** The clips of the job in their order: pick one, move it, remove it, add more. */
export function ClipList({ store, clips, set, selectedId, imports, waysIn, onRemove, onPick }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const { select, moveClip } = store.getState();
  const moved = ({ active, over }: DragEndEvent) => {
    const to = clips.findIndex(({ id }) => id === over?.id);
    if (over && active.id !== over.id && to >= 0) moveClip(String(active.id), to);
  };

  return (
    <>
      <div className="flex items-center justify-between px-3 pt-3 pb-1">
        <h2 className="label">
          Clips <span className="figure ml-1">{clips.length}</span>
        </h2>
        <AddMenu ways={waysIn} />
      </div>
      <ImportRows imports={imports} />
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={moved}>
        <SortableContext items={clips.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
          <ol className="min-h-24 flex-1 overflow-y-auto">
            {clips.map((clip, index) => (
              <ClipRow
                key={clip.id}
                clip={clip}
                number={index + 1}
                seconds={set.seconds.get(clip.id)}
                trouble={set.troubles.get(clip.id)}
                isSelected={clip.id === selectedId}
                onSelect={() => {
                  select(clip.id);
                  onPick();
                }}
                onRemove={() => onRemove(clip.id)}
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
    </>
  );
}

interface RowProps {
  readonly clip: RankedClip;
  readonly number: number;
  readonly seconds: number | undefined;
  readonly trouble: string | undefined;
  readonly isSelected: boolean;
  readonly onSelect: () => void;
  readonly onRemove: () => void;
}

function ClipRow({ clip, number, seconds, trouble, isSelected, onSelect, onRemove }: RowProps) {
  const { setNodeRef, attributes, listeners, transform, transition } = useSortable({ id: clip.id });
  const { name } = clip;
  const row = useRef<HTMLLIElement>(null);
  // Whatever selects a clip, it is seen.
  useEffect(() => {
    if (isSelected) row.current?.scrollIntoView({ block: 'nearest' });
  }, [isSelected]);
  return (
    <li
      ref={(element) => {
        row.current = element;
        setNodeRef(element);
      }}
      style={{ transform: transform ? `translateY(${transform.y}px)` : undefined, transition }}
      className={`group flex items-center border-l-4 ${isSelected ? 'border-pine bg-pine-tint' : 'border-transparent hover:bg-sheet'}`}
    >
      <Button
        kind="bare"
        {...attributes}
        {...listeners}
        aria-label={`Move ${name}`}
        className="cursor-grab touch-none p-1 text-graphite"
      >
        <GripVertical className="size-3.5" aria-hidden />
      </Button>
      <Button
        kind="bare"
        onClick={onSelect}
        aria-current={isSelected ? 'true' : undefined}
        className="flex min-w-0 flex-1 items-baseline gap-2 py-1.5 text-left"
      >
        <span className="figure w-5 shrink-0 text-right text-sm text-graphite">{number}</span>
        <span className={`min-w-0 flex-1 truncate ${isSelected ? 'font-semibold' : ''}`} title={name}>
          {name}
        </span>
        {trouble ? (
          <span className="shrink-0 font-bold text-brick" title={trouble}>
            <span aria-hidden>!</span>
            <span className="sr-only">trouble: {trouble}</span>
          </span>
        ) : (
          seconds !== undefined && (
            <span className="figure shrink-0 text-xs text-graphite">{formatSeconds(seconds)}</span>
          )
        )}
      </Button>
      <Button kind="quiet" aria-label={`Remove ${name}`} onClick={onRemove}>
        <X className="size-3.5" aria-hidden />
      </Button>
    </li>
  );
}
