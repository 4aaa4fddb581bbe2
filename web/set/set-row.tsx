import { useDraggable, useDroppable } from '@dnd-kit/core';
import {
  askedBy,
  formatBytes,
  formatSeconds,
  type Plan,
  type RankedClip,
  soundBytesOf,
  sourceOf,
  stemOfName,
  type Target,
} from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { Check, CopyPlus, GripVertical, Play, Square, X } from 'lucide-react';
import { type KeyboardEvent, useState } from 'react';
import { Link } from 'react-router';
import { useSource } from '../api/shelf.ts';
import { chainOf, type SettledClip } from '../job/set.ts';
import { SmallWaveform } from '../sound/small-waveform.tsx';
import { Button } from '../ui/button.tsx';
import { useDraft } from '../ui/draft.ts';
import { type SetRow as Row, TAG_NAMES, type TagName, tagsIn } from './rows.ts';

/** Pixels that a line takes. */
export const LINE_HEIGHT = 46;

/** Columns of the table, the same for its head and its lines. */
export const columnsOf = (hasTags: boolean): string =>
  hasTags
    ? 'grid-cols-[1.75rem_4.5rem_minmax(9rem,2fr)_minmax(8rem,1.5fr)_repeat(4,minmax(6rem,1fr))_4.75rem]'
    : 'grid-cols-[1.75rem_4.5rem_8rem_minmax(8rem,3fr)_minmax(8rem,3fr)_5.5rem_minmax(6rem,4fr)_4.75rem] max-lg:grid-cols-[1.75rem_4.5rem_6rem_minmax(8rem,2fr)_minmax(8rem,2fr)_5.5rem_2rem_4.75rem] max-sm:grid-cols-[1.75rem_4rem_minmax(0,1fr)_4.5rem]';

interface Props {
  readonly row: Row;
  readonly top: number;
  readonly target: Target;
  readonly jobId: string;
  readonly settled: SettledClip | undefined;
  readonly seconds: number | undefined;
  /** What keeps it from meeting the sheet. */
  readonly trouble: string | undefined;
  readonly isPlaying: boolean;
  readonly onPlay: (source: SourceView, part: Plan<'cut'> | undefined) => void;
  /** Its name in the delivery, with its extension. */
  readonly file: string | null;
  /** Tags are shown, and can be written. */
  readonly hasTags: boolean;
  readonly onName: (clip: RankedClip, name: string) => void;
  readonly onTag: (clip: RankedClip, tag: TagName, value: string) => void;
  /** Puts what is here at another place; null if the number is none. */
  readonly onPlace: (to: number) => void;
  /** By a number of lines. */
  readonly onMove: (by: 1 | -1) => void;
  readonly onAlso: () => void;
  readonly onNotHere: () => void;
}

const cell =
  'min-w-0 w-full border-b border-transparent bg-transparent py-1 outline-none hover:border-rule focus:border-pine';

/** A place, or a clip in its order: what plays there, and what its file is called. */
export function SetLine(props: Props) {
  const { row, top, target, settled, seconds, trouble, file, hasTags } = props;
  const { onPlace, onMove, onAlso, onNotHere, onName, onTag } = props;
  const { clip, number, words, label, isOneOfSeveral, key } = row;
  const what = words ?? `line ${number}`;
  const { setNodeRef, isOver } = useDroppable({ id: key });
  const {
    setNodeRef: dragRef,
    attributes,
    listeners,
    transform,
    isDragging,
  } = useDraggable({ id: key, disabled: !clip });
  const chain = chainOf(settled);
  const tags = chain ? tagsIn(chain.stations.wrap.plan) : {};
  const bytes = chain && soundBytesOf(chain);
  const numberDraft = useDraft(String(number), (text) => {
    if (/^\d{1,6}$/.test(text.trim())) onPlace(Number(text));
    return null;
  });
  const keyed = (event: KeyboardEvent) => {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (!event.altKey || by === 0 || !clip) return;
    event.preventDefault();
    onMove(by);
  };
  return (
    <li
      ref={setNodeRef}
      data-row={key}
      style={{ top, height: LINE_HEIGHT, transform: transform ? `translateY(${transform.y}px)` : undefined }}
      className={`absolute inset-x-0 grid items-center gap-x-3 border-b border-hairline px-2 sm:px-4 ${columnsOf(hasTags)} ${isOver ? 'bg-pine-tint' : ''} ${isDragging ? 'z-10 border-pine bg-sheet opacity-90' : ''}`}
      onKeyDown={keyed}
    >
      {clip ? (
        <Button
          kind="bare"
          ref={dragRef}
          {...attributes}
          {...listeners}
          aria-label={`Move ${clip.name} from ${what}`}
          className="cursor-grab touch-none p-1 text-graphite"
        >
          <GripVertical className="size-3.5" aria-hidden />
        </Button>
      ) : (
        <span />
      )}
      {clip ? (
        <span className="min-w-0 text-right">
          <input
            aria-label={`Place of ${clip.name}`}
            inputMode="numeric"
            title={words ?? undefined}
            className={`figure text-right ${cell} ${label ? 'py-0' : ''}`}
            {...numberDraft}
          />
          {label && (
            <span className="block truncate text-xs text-graphite" title={label}>
              {label}
            </span>
          )}
        </span>
      ) : (
        <span className="figure py-1 text-right text-graphite" title={words ?? undefined}>
          {number}
        </span>
      )}
      {!hasTags && (clip ? <Sound {...props} clip={clip} /> : <span className="max-sm:hidden" />)}
      {clip ? (
        <NameField {...{ clip, target, file, onName, what }} jobId={props.jobId} />
      ) : (
        <span className="col-span-2 text-sm text-graphite">free{label && `: ${label}`}</span>
      )}
      {clip &&
        hasTags &&
        TAG_NAMES.map((tag) => (
          <TagField key={tag} tag={tag} clip={clip} value={tags[tag] ?? ''} onTag={onTag} isOff={!chain} />
        ))}
      {clip && !hasTags && (
        <span className="figure truncate text-right text-sm text-graphite max-sm:hidden">
          {seconds !== undefined && formatSeconds(seconds)}
          {bytes !== null && <span className="block text-xs">{formatBytes(bytes)}</span>}
        </span>
      )}
      {clip && !hasTags && <Standing trouble={trouble} isKnown={settled !== undefined} />}
      {clip && (
        <span className="flex justify-end">
          {words !== null && (
            <Button
              kind="quiet"
              aria-label={`${clip.name} at another place too`}
              title="At another place too"
              onClick={onAlso}
            >
              <CopyPlus className="size-4" aria-hidden />
            </Button>
          )}
          {isOneOfSeveral && (
            <Button kind="quiet" aria-label={`${clip.name} not at ${what}`} title="Not here" onClick={onNotHere}>
              <X className="size-4" aria-hidden />
            </Button>
          )}
        </span>
      )}
    </li>
  );
}

/** What plays there, in small: the cut of its source, to be heard as it came. */
function Sound({
  clip,
  settled,
  isPlaying,
  onPlay,
}: Pick<Props, 'settled' | 'isPlaying' | 'onPlay'> & { clip: RankedClip }) {
  const source = useSource(sourceOf(clip)).data;
  if (!source) return <span className="max-sm:hidden" />;
  const cut = chainOf(settled)?.stations.cut.plan;
  const { frames } = source.facts;
  return (
    <span className="flex min-w-0 items-center gap-1 max-sm:hidden">
      <Button
        kind="bare"
        aria-label={`${isPlaying ? 'Stop' : 'Play'} ${clip.name}`}
        title="The cut of its source"
        className="p-1 text-pine hover:bg-hairline/60"
        onClick={() => onPlay(source, cut)}
      >
        {isPlaying ? <Square className="size-4" aria-hidden /> : <Play className="size-4" aria-hidden />}
      </Button>
      <span className="min-w-0 flex-1">
        <SmallWaveform
          waveform={source.waveform}
          {...(cut && frames > 0 ? { from: cut.start / frames, to: cut.end / frames } : {})}
        />
      </span>
    </span>
  );
}

/** Whether it will meet the sheet, and what is in the way. */
function Standing({ trouble, isKnown }: { readonly trouble: string | undefined; readonly isKnown: boolean }) {
  if (trouble === undefined) {
    return (
      <span className="truncate text-sm text-graphite max-sm:hidden">
        {isKnown && (
          <>
            <Check className="inline size-4 text-pine" aria-hidden /> <span className="max-lg:sr-only">fits</span>
          </>
        )}
      </span>
    );
  }
  return (
    <span className="line-clamp-2 text-xs text-brick max-sm:hidden" title={trouble}>
      <span aria-hidden className="font-bold lg:hidden">
        !
      </span>
      <span className="max-lg:sr-only">{trouble}</span>
    </span>
  );
}

interface NameProps extends Pick<Props, 'target' | 'file' | 'onName' | 'jobId'> {
  readonly clip: RankedClip;
  readonly what: string;
}

/** A clip's name, and beside it what its file is called, checked as it is typed. */
function NameField({ clip, target, file, onName, what, jobId }: NameProps) {
  const [isTyping, setTyping] = useState(false);
  const draft = useDraft(clip.name, (text) => {
    const wanted = text.trim();
    if (wanted && wanted !== clip.name) onName(clip, wanted);
    return wanted || null;
  });
  const extension = file?.slice(file.lastIndexOf('.')) ?? '';
  const stem = file?.slice(0, file.length - extension.length) ?? '';
  const isNumbered = /^\d+$/.test(stem) && askedBy(target).some((entry) => entry.kind === 'name' && entry.digits);
  const typed = stemOfName(draft.value, target);
  const own = stemOfName(clip.name, target).stem;
  const isTaken = !isNumbered && file !== null && own !== stem;
  const shown = isTyping && draft.value !== clip.name && !isNumbered ? `${typed.stem}${extension}` : (file ?? '');
  return (
    <>
      <input
        aria-label={`Name at ${what}`}
        data-name
        maxLength={120}
        className={cell}
        onFocus={() => setTyping(true)}
        {...draft}
        onBlur={(event) => {
          setTyping(false);
          draft.onBlur(event);
        }}
      />
      <span className="min-w-0 max-sm:hidden">
        <Link
          to={`/jobs/${jobId}`}
          state={{ clip: clip.id }}
          className="figure block truncate text-sm hover:underline"
          title={shown}
        >
          {shown}
        </Link>
        {isTyping && !isNumbered ? (
          <span role="status" className={`block truncate text-xs ${typed.left < 0 ? 'text-brick' : 'text-graphite'}`}>
            {typed.left < 0 ? `${-typed.left} too many: cut off` : `${typed.left} characters left`}
          </span>
        ) : (
          isTaken && (
            <span className="block truncate text-xs text-saffron" title={`Another clip is called ${own}`}>
              {own} is taken
            </span>
          )
        )}
      </span>
    </>
  );
}

function TagField({
  tag,
  clip,
  value,
  isOff,
  onTag,
}: Pick<Props, 'onTag'> & { tag: TagName; clip: RankedClip; value: string; isOff: boolean }) {
  const draft = useDraft(value, (text) => {
    if (text.trim() !== value) onTag(clip, tag, text.trim());
    return text.trim();
  });
  return (
    <input
      aria-label={`${tag} of ${clip.name}`}
      disabled={isOff}
      maxLength={500}
      className={`text-sm ${cell}`}
      {...draft}
    />
  );
}
