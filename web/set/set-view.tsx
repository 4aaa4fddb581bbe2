import { DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import {
  addedPlace,
  clearedPlace,
  clearedPlaces,
  movedPlace,
  type RankedClip,
  slotTableCsv,
  type Target,
} from '@tambur/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Printer, Table } from 'lucide-react';
import { useRef, useState } from 'react';
import { useStore } from 'zustand';
import type { JobStore } from '../job/job-store.ts';
import type { SettledSet } from '../job/set.ts';
import { useSourcePlayer } from '../sound/use-source-player.ts';
import { Button } from '../ui/button.tsx';
import { useDraft } from '../ui/draft.ts';
import { saveFile } from '../ui/save-file.ts';
import { NamesFromTags } from './names-from-tags.tsx';
import { OwnLists } from './own-lists.tsx';
import {
  fileAt,
  hasPlaces,
  type SetRow,
  setRows,
  slotLines,
  TAG_NAMES,
  type TagName,
  tagChanges,
  whyNoTags,
} from './rows.ts';
import { columnsOf, LINE_HEIGHT, SetLine } from './set-row.tsx';
import { SlotPrint } from './slot-print.tsx';

interface Props {
  readonly jobId: string;
  readonly store: JobStore;
  readonly set: SettledSet;
  readonly target: Target;
}

/** All clips of a set as a table: which plays where, what their files are called, their tags, and the lists of the device. */
export function SetView({ jobId, store, set, target }: Props) {
  const job = useStore(store, (state) => state.job);
  const { clips, places } = job;
  const { placeClips, moveClip, changeSettings, changeMany } = store.getState();
  const rows = setRows(clips, set, target);
  const isPlaced = hasPlaces(target);
  const noTags = whyNoTags(target);
  const [showsTags, setShowsTags] = useState(false);
  const hasTags = showsTags && noTags === null;
  const word = target.places?.words[0] ?? (isPlaced ? 'number' : 'order');
  const [message, setMessage] = useState('');
  const player = useSourcePlayer();

  const list = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => list.current,
    estimateSize: () => LINE_HEIGHT,
    overscan: 8,
  });
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, {
      coordinateGetter: (event, { currentCoordinates }) => {
        const by = event.code === 'ArrowDown' ? 1 : event.code === 'ArrowUp' ? -1 : 0;
        return by === 0 ? undefined : { ...currentCoordinates, y: currentCoordinates.y + by * LINE_HEIGHT };
      },
    }),
  );

  /** Puts what is at one line at another. */
  const move = (from: SetRow, to: SetRow | undefined) => {
    if (!from.clip || !to || from.key === to.key) return;
    if (isPlaced) {
      placeClips(movedPlace(set.placing, places, from.number, to.number));
      setMessage(`${from.clip.name} plays at ${to.words ?? to.number}`);
    } else if (to.clip) moveClip(from.clip.id, to.clip.id, to.number > from.number);
  };
  /** The same by key: the next key is for what has moved. */
  const moveByKey = (from: SetRow, to: SetRow | undefined) => {
    move(from, to);
    const next = isPlaced ? to?.key : from.key;
    requestAnimationFrame(() =>
      list.current?.querySelector<HTMLElement>(`[data-row="${next}"] [data-name]`)?.focus({ preventScroll: false }),
    );
  };
  const toNumber = (row: SetRow, number: number) => {
    if (isPlaced)
      move(row, rows.find((other) => other.number === number) ?? { ...row, key: '', number, words: null, label: null });
    else move(row, rows[Math.min(rows.length, Math.max(1, number)) - 1]);
  };
  const dropped = ({ active, over }: DragEndEvent) => {
    const rowOf = (key: unknown) => rows.find((row) => row.key === key);
    const from = rowOf(active.id);
    if (from && over) move(from, rowOf(over.id));
  };
  const also = (row: SetRow) => {
    const free =
      rows.find((other) => other.clip === null && other.number > row.number) ?? rows.find((other) => !other.clip);
    if (!row.clip || !free) return setMessage('There is no free place left.');
    placeClips(addedPlace(set.placing, places, row.clip.id, free.number));
    setMessage(`${row.clip.name} plays at ${free.words ?? free.number} too`);
  };
  const tag = (which: readonly RankedClip[], name: TagName, value: string) =>
    changeMany(tagChanges(which, set, job, name, value));
  const lines = slotLines(rows, set);

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <Tools
        store={store}
        noTags={noTags}
        hasTags={hasTags}
        onTags={setShowsTags}
        onReset={Object.keys(places).length > 0 ? () => placeClips(clearedPlaces(places)) : undefined}
        csv={lines.length > 0 ? () => slotTableCsv(target, lines) : undefined}
      />
      <OwnLists store={store} set={set} target={target} />
      {player.problem && (
        <p role="alert" className="border-l-4 border-brick bg-brick-tint px-4 py-2 sm:px-6">
          {player.problem}
        </p>
      )}
      <p role="status" className="sr-only">
        {message}
      </p>
      <SlotPrint title={job.title} target={target} lines={lines} />
      <div className="min-h-0 flex-1 overflow-x-auto print:hidden">
        <div className={`flex h-full flex-col ${hasTags ? 'min-w-[62rem]' : ''}`}>
          <Head word={word} hasTags={hasTags} onTag={(name, value) => tag(clips, name, value)} />
          {clips.length === 0 ? (
            <p className="p-6 text-graphite">No clips yet: drop audio on the bench.</p>
          ) : (
            <DndContext sensors={sensors} onDragEnd={dropped}>
              <div ref={list} className="min-h-40 flex-1 overflow-y-auto">
                <ol className="relative" style={{ height: virtual.getTotalSize() }} aria-label="Places of the set">
                  {virtual.getVirtualItems().map(({ index, start }) => {
                    const row = rows[index];
                    return (
                      row && (
                        <SetLine
                          key={row.key}
                          row={row}
                          top={start}
                          target={target}
                          jobId={jobId}
                          settled={row.clip ? set.settled.get(row.clip.id) : undefined}
                          seconds={row.clip ? set.seconds.get(row.clip.id) : undefined}
                          trouble={row.clip ? set.troubles.get(row.clip.id) : undefined}
                          isPlaying={player.playingId === row.key}
                          onPlay={(source, part) => player.toggle(source, row.key, part)}
                          file={fileAt(row, set)}
                          hasTags={hasTags}
                          onName={(clip, name) => changeSettings(clip.id, { name })}
                          onTag={(clip, name, value) => tag([clip], name, value)}
                          onPlace={(number) => toNumber(row, number)}
                          onMove={(by) => moveByKey(row, rows[index + by])}
                          onAlso={() => also(row)}
                          onNotHere={() => placeClips(clearedPlace(set.placing, places, row.number))}
                        />
                      )
                    );
                  })}
                </ol>
              </div>
            </DndContext>
          )}
        </div>
      </div>
    </div>
  );
}

interface ToolsProps {
  readonly store: JobStore;
  /** Why the set takes no tags; null if it does. */
  readonly noTags: string | null;
  readonly hasTags: boolean;
  readonly onTags: (shows: boolean) => void;
  /** Left out if nothing stands elsewhere than the order of the clips has it. */
  readonly onReset: (() => void) | undefined;
  /** What plays where, as a table; left out if nothing does. */
  readonly csv: (() => string) | undefined;
}

/** What is done with the table as a whole. */
function Tools({ store, noTags, hasTags, onTags, onReset, csv }: ToolsProps) {
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-hairline px-4 py-2 print:hidden sm:px-6">
      <NamesFromTags store={store} />
      <label className="flex items-center gap-2 text-sm" title={noTags ?? undefined}>
        <input
          type="checkbox"
          className="accent-pine"
          checked={hasTags}
          disabled={noTags !== null}
          onChange={({ target: box }) => onTags(box.checked)}
        />
        Tags{noTags && <span className="text-graphite"> – {noTags}</span>}
      </label>
      {onReset && (
        <Button kind="quiet" onClick={onReset}>
          Back to the order of the clips
        </Button>
      )}
      <span className="ml-auto flex gap-1">
        <Button kind="quiet" disabled={!csv} onClick={() => csv && saveFile('slot-table.csv', 'text/csv', csv())}>
          <Table className="size-4" aria-hidden /> Table as CSV
        </Button>
        <Button kind="quiet" disabled={!csv} onClick={() => window.print()}>
          <Printer className="size-4" aria-hidden /> Print
        </Button>
      </span>
    </div>
  );
}

interface HeadProps {
  /** What the device calls a place. */
  readonly word: string;
  readonly hasTags: boolean;
  readonly onTag: (tag: TagName, value: string) => void;
}

/** What stands in the columns, and where tags are written for all clips at once. */
function Head({ word, hasTags, onTag }: HeadProps) {
  return (
    <div className={`grid items-end gap-x-3 border-b border-ink px-2 pt-3 pb-1 sm:px-4 ${columnsOf(hasTags)}`}>
      <span />
      <span className="label text-right">{word}</span>
      {!hasTags && <span className="label max-sm:hidden">sound</span>}
      <span className="label">name</span>
      <span className="label max-sm:hidden">file</span>
      {hasTags ? (
        TAG_NAMES.map((tag) => <ForAll key={tag} tag={tag} onSet={(value) => onTag(tag, value)} />)
      ) : (
        <>
          <span className="label text-right max-sm:hidden">length</span>
          <span className="label max-lg:sr-only">findings</span>
        </>
      )}
      <span />
    </div>
  );
}

/** A tag for all clips at once. */
function ForAll({ tag, onSet }: { readonly tag: TagName; readonly onSet: (value: string) => void }) {
  const draft = useDraft('', (text) => {
    if (text.trim()) onSet(text.trim());
    return '';
  });
  return (
    <span className="min-w-0">
      <span className="label">{tag}</span>
      <input
        aria-label={`${tag} of all clips`}
        placeholder="for all …"
        maxLength={500}
        className="w-full border-b border-rule bg-transparent py-0.5 text-sm outline-none placeholder:text-graphite focus:border-pine"
        {...draft}
      />
    </span>
  );
}
