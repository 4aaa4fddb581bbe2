import { useSortable } from '@dnd-kit/sortable';
import { formatBytes, formatPercent, formatSeconds, type RankedClip, soundBytesOf, sourceOf } from '@tambur/core';
import { GripVertical, X } from 'lucide-react';
import { useSource } from '../api/shelf.ts';
import { chainOf, type SettledClip } from '../job/set.ts';
import { SmallWaveform } from '../sound/small-waveform.tsx';
import { Button } from '../ui/button.tsx';

/** Pixels that a row takes. */
export const ROW_HEIGHT = 52;

interface Props {
  readonly clip: RankedClip;
  readonly index: number;
  /** The device's numbers for its places, and what those are called; null if it has no places. */
  readonly slot: { readonly number: string; readonly words: string | null };
  /** Of all clips. */
  readonly count: number;
  readonly settled: SettledClip | undefined;
  readonly seconds: number | undefined;
  readonly trouble: string | undefined;
  /** Bytes that the whole set may take; null if that is not limited. */
  readonly mostBytes: number | null;
  readonly isShown: boolean;
  /** One of several that are picked. */
  readonly isPicked: boolean;
  /** Another of those that are picked is being dragged, and takes this one along. */
  readonly isTakenAlong: boolean;
  readonly onPick: (held: { readonly shift: boolean; readonly ctrl: boolean }) => void;
  readonly onRemove: () => void;
}

/** A clip in the list: its place on the device, its name, what it looks like, and how long and how large its result is. */
export function ClipRow({
  clip,
  index,
  slot,
  count,
  settled,
  seconds,
  trouble,
  mostBytes,
  isShown,
  isPicked,
  isTakenAlong,
  onPick,
  onRemove,
}: Props) {
  const { setNodeRef, attributes, listeners, transform, transition } = useSortable({ id: clip.id });
  const { name } = clip;
  const waveform = useSource(sourceOf(clip)).data?.waveform;
  const chain = chainOf(settled);
  const bytes = chain && soundBytesOf(chain);
  const look = isShown
    ? 'border-pine bg-pine-tint'
    : isPicked
      ? 'border-rule bg-pine-tint'
      : 'border-transparent hover:bg-sheet';
  return (
    <li
      ref={setNodeRef}
      style={{
        top: index * ROW_HEIGHT,
        height: ROW_HEIGHT,
        transform: transform ? `translateY(${transform.y}px)` : undefined,
        transition,
      }}
      aria-setsize={count}
      aria-posinset={index + 1}
      className={`group absolute inset-x-0 flex items-center border-l-4 ${look} ${isTakenAlong ? 'opacity-40' : ''}`}
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
        onClick={({ shiftKey, ctrlKey, metaKey }) => onPick({ shift: shiftKey, ctrl: ctrlKey || metaKey })}
        aria-current={isShown ? 'true' : undefined}
        className="grid min-w-0 flex-1 grid-cols-[minmax(1.25rem,auto)_minmax(0,1fr)_auto] items-baseline gap-x-2 py-1 text-left"
      >
        <span className="figure text-right text-sm text-graphite" title={slot.words ?? undefined}>
          {slot.number}
        </span>
        <span className={`truncate ${isShown ? 'font-semibold' : ''}`} title={name}>
          {name}
        </span>
        {trouble ? (
          <span className="font-bold text-brick" title={trouble}>
            <span aria-hidden>!</span>
            <span className="sr-only">trouble: {trouble}</span>
          </span>
        ) : (
          <span className="figure text-xs text-graphite">{seconds !== undefined && formatSeconds(seconds)}</span>
        )}
        <span className="col-start-2 h-4 self-center overflow-hidden [&>svg]:h-4">
          {waveform && <SmallWaveform waveform={waveform} />}
        </span>
        <span className="figure text-xs text-graphite">
          {bytes !== null && (mostBytes ? formatPercent(bytes / mostBytes) : formatBytes(bytes))}
        </span>
        {isPicked && !isShown && <span className="sr-only">picked</span>}
      </Button>
      <Button kind="quiet" aria-label={`Remove ${name}`} onClick={onRemove}>
        <X className="size-3.5" aria-hidden />
      </Button>
    </li>
  );
}
