import {
  envelopeOf,
  findParts,
  formatDb,
  formatSeconds,
  fromDb,
  joinPart,
  type Part,
  type PartRules,
  PEAK_STEP,
  type Peaks,
  proposedThreshold,
  splitPart,
} from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useQuery } from '@tanstack/react-query';
import { Combine, Play, Scissors, Square, X } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { useStore } from 'zustand';
import type { NewClip } from '../api/add-clips.ts';
import { fetchFloats } from '../api/client.ts';
import { nameFromFile } from '../job/clip-edits.ts';
import { JobSelect, useJobChoice } from '../job/job-picker.tsx';
import { Canvas } from '../sound/canvas.tsx';
import { LanePlayer } from '../sound/player.ts';
import { soundOfSource, sourceReader } from '../sound/samples.ts';
import { drawWaveform, extentOfPeaks } from '../sound/waveform.ts';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/field.tsx';
import { Modal } from '../ui/modal.tsx';
import { Slider } from '../ui/slider.tsx';
import { colour } from '../ui/theme.ts';
import { START_EDIT, undone, withParts, withRules } from './parts-edit.ts';

interface Props {
  readonly source: SourceView;
  readonly onClose: () => void;
  /** Takes the clips; without it the user chooses the job that they go to. */
  readonly onTake?: (clips: readonly NewClip[]) => void;
}

/** Splits a long recording at its silences into clips: by rules first, then by hand. */
export function FindPartsDialog({ source, onClose, onTake }: Props) {
  const { id, facts } = source;
  const { path } = soundOfSource(source);
  const { frames, sampleRate, channels } = facts;
  const navigate = useNavigate();
  const choice = useJobChoice((jobId) => navigate(`/jobs/${jobId}`));
  const peaks = useQuery({
    queryKey: ['peaks', path, PEAK_STEP],
    queryFn: async ({ signal }): Promise<Peaks> => ({
      step: PEAK_STEP,
      channelCount: channels,
      values: await fetchFloats(`${path}/peaks?step=${PEAK_STEP}`, signal),
    }),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const envelope = useMemo(() => (peaks.data ? envelopeOf(peaks.data) : null), [peaks.data]);
  const [edit, setEdit] = useState(START_EDIT);
  const { rules, byHand } = edit;
  const thresholdDb = edit.thresholdDb ?? (envelope ? proposedThreshold(envelope) : -40);
  const found = useMemo(
    () => (envelope ? findParts(envelope, PEAK_STEP, frames, sampleRate, { ...rules, thresholdDb }) : []),
    [envelope, frames, sampleRate, rules, thresholdDb],
  );
  const parts = byHand ?? found;
  const change = (next: readonly Part[]) => setEdit(withParts(edit, next));
  const [name, setName] = useState(() => nameFromFile(source.name));
  const [place, setPlace] = useState(0);
  const player = usePartPlayer(source);

  const clips = parts.map(
    (cut, i): NewClip => ({ sourceId: id, name: parts.length > 1 ? `${name} ${i + 1}` : name, cut }),
  );
  const take = async () => {
    if (onTake) {
      onTake(clips);
      onClose();
    } else if (await choice.add(clips, name)) onClose();
  };

  const insideOf = parts.findIndex(({ start, end }) => place > start && place < end);
  return (
    <Modal
      wide
      title={`Parts of ${source.name}`}
      onClose={onClose}
      actions={
        <>
          {!onTake && (
            <div className="w-60">
              <JobSelect choice={choice} />
            </div>
          )}
          <Button
            kind="main"
            disabled={parts.length === 0 || choice.isPending || !name.trim()}
            onClick={() => void take()}
          >
            {parts.length === 1 ? 'Make 1 clip' : `Make ${parts.length} clips`}
          </Button>
        </>
      }
    >
      {peaks.error && (
        <p role="alert" className="mb-2 bg-brick-tint px-2 py-1">
          {peaks.error.message}
        </p>
      )}
      <PartsPicture
        peaks={peaks.data ?? null}
        frames={frames}
        channels={channels}
        parts={parts}
        threshold={fromDb(thresholdDb)}
        place={player.place ?? place}
        onPlace={setPlace}
      />
      <div className="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
        <span className="figure text-graphite">{formatSeconds(place / sampleRate)}</span>
        <Button kind="quiet" disabled={insideOf < 0} onClick={() => change(splitPart(parts, place))}>
          <Scissors className="size-3.5" aria-hidden /> Split part {insideOf < 0 ? '' : insideOf + 1} here
        </Button>
        <Button kind="quiet" disabled={edit.before.length === 0} onClick={() => setEdit(undone(edit))}>
          Undo
        </Button>
        <span className="ml-auto text-graphite">
          {byHand ? 'changed by hand; moving a slider finds them again' : 'found by the rules below'}
        </span>
      </div>
      <RuleSliders rules={{ ...rules, thresholdDb }} onRules={(changed) => setEdit(withRules(edit, changed))} />
      <div className="mt-4">
        <TextField
          label="Name of the clips"
          value={name}
          maxLength={110}
          onChange={(event) => setName(event.target.value)}
        />
      </div>
      {parts.length === 0 ? (
        <p className="mt-4 text-graphite">
          {envelope
            ? 'Nothing is louder than the threshold for long enough: lower it, or allow shorter parts.'
            : 'Reading …'}
        </p>
      ) : (
        <PartList
          parts={parts}
          names={clips.map((clip) => clip.name)}
          sampleRate={sampleRate}
          player={player}
          onParts={change}
        />
      )}
    </Modal>
  );
}

/** The rules by which parts are found. */
function RuleSliders({
  rules,
  onRules,
}: {
  readonly rules: PartRules;
  readonly onRules: (rules: Partial<PartRules>) => void;
}) {
  return (
    <div className="mt-3 grid gap-x-6 gap-y-3 sm:grid-cols-2 lg:grid-cols-4">
      <Slider
        label="Silence below"
        shown={formatDb(rules.thresholdDb, 'dBFS')}
        value={rules.thresholdDb}
        range={{ least: -70, most: -6 }}
        step={1}
        onChange={(value) => onRules({ thresholdDb: value })}
      />
      <Slider
        label="Shortest silence"
        shown={formatSeconds(rules.leastSilence)}
        value={rules.leastSilence}
        range={{ least: 0.05, most: 3 }}
        step={0.05}
        onChange={(leastSilence) => onRules({ leastSilence })}
      />
      <Slider
        label="Shortest part"
        shown={formatSeconds(rules.leastPart)}
        value={rules.leastPart}
        range={{ least: 0.02, most: 5 }}
        step={0.01}
        onChange={(leastPart) => onRules({ leastPart })}
      />
      <Slider
        label="Kept around it"
        shown={formatSeconds(rules.margin)}
        value={rules.margin}
        range={{ least: 0, most: 1 }}
        step={0.01}
        onChange={(margin) => onRules({ margin })}
      />
    </div>
  );
}

interface PartListProps {
  readonly parts: readonly Part[];
  /** What their clips will be called. */
  readonly names: readonly string[];
  readonly sampleRate: number;
  readonly player: ReturnType<typeof usePartPlayer>;
  readonly onParts: (parts: readonly Part[]) => void;
}

/** Each part with its clip's name, to be heard, joined with the next, or left out. */
function PartList({ parts, names, sampleRate, player, onParts }: PartListProps) {
  return (
    <ol className="mt-3 max-h-60 divide-y divide-hairline overflow-y-auto border-y border-hairline" aria-label="Parts">
      {parts.map((part, i) => (
        <li key={`${part.start} ${part.end}`} className="flex items-center gap-2 py-0.5">
          <Button
            kind="quiet"
            aria-label={player.playing === i ? `Stop part ${i + 1}` : `Play part ${i + 1}`}
            onClick={() => player.toggle(i, part)}
          >
            {player.playing === i ? <Square className="size-4" aria-hidden /> : <Play className="size-4" aria-hidden />}
          </Button>
          <span className="min-w-0 flex-1 truncate">{names[i]}</span>
          <span className="figure hidden text-sm text-graphite sm:inline">
            from {formatSeconds(part.start / sampleRate)}
          </span>
          <span className="figure w-20 text-right text-sm">{formatSeconds((part.end - part.start) / sampleRate)}</span>
          <Button
            kind="quiet"
            aria-label={`Join part ${i + 1} with the next`}
            title="Join with the next"
            disabled={i === parts.length - 1}
            onClick={() => onParts(joinPart(parts, i))}
          >
            <Combine className="size-4" aria-hidden />
          </Button>
          <Button
            kind="quiet"
            aria-label={`Leave part ${i + 1} out`}
            title="Leave out"
            onClick={() => onParts(parts.filter((_, k) => k !== i))}
          >
            <X className="size-4" aria-hidden />
          </Button>
        </li>
      ))}
    </ol>
  );
}

function usePartPlayer(source: SourceView) {
  const [player] = useState(() => new LanePlayer());
  const [index, setIndex] = useState<number | null>(null);
  const isPlaying = useStore(player.store, (state) => state.playing);
  const position = useStore(player.store, (state) => state.position);
  useEffect(() => () => player.close(), [player]);
  const toggle = (i: number, { start, end }: Part) => {
    const wasThis = isPlaying && index === i;
    player.stop();
    if (wasThis) return;
    const reader = sourceReader(source);
    player.load({ source: reader, cut: { start, end }, lanes: {}, sampleRate: reader.sampleRate });
    player.listen('source');
    player.seek(start);
    setIndex(i);
    player.toggle();
  };
  return { playing: isPlaying ? index : null, place: isPlaying ? position : null, toggle };
}

interface PictureProps {
  readonly peaks: Peaks | null;
  readonly frames: number;
  readonly channels: number;
  readonly parts: readonly Part[];
  /** Linear. */
  readonly threshold: number;
  readonly place: number;
  readonly onPlace: (frame: number) => void;
}

/** The whole recording with its parts, the threshold, and the place where it can be split. */
function PartsPicture({ peaks, frames, channels, parts, threshold, place, onPlace }: PictureProps) {
  const lane = useRef<HTMLDivElement>(null);
  const extent = useMemo(() => (peaks ? extentOfPeaks(peaks) : null), [peaks]);
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) => {
      context.fillStyle = colour('sheet');
      context.fillRect(0, 0, width, height);
      const x = (frame: number) => (frame / frames) * width;
      context.fillStyle = colour('pine-tint');
      for (const { start, end } of parts) context.fillRect(x(start), 0, Math.max(1, x(end) - x(start)), height);
      if (extent) {
        const [inside, outside] = [colour('ink'), colour('rule')];
        drawWaveform(context, width, height, { from: 0, to: frames }, channels, extent, (frame) =>
          parts.some(({ start, end }) => frame >= start && frame < end) ? inside : outside,
        );
      }
      context.fillStyle = colour('saffron-mark');
      for (let channel = 0; channel < channels; channel++) {
        const band = height / channels;
        const half = (band / 2 - 2) * threshold;
        for (const y of [-half, half]) context.fillRect(0, band * (channel + 0.5) + y, width, 1);
      }
      context.fillStyle = colour('pine');
      context.font = '600 11px sans-serif';
      parts.forEach(({ start, end }, i) => {
        context.fillRect(x(start), 0, 1, height);
        context.fillRect(x(end) - 1, 0, 1, height);
        if (x(end) - x(start) > 14) context.fillText(String(i + 1), x(start) + 4, 12);
      });
      context.fillStyle = colour('brick');
      context.fillRect(x(place), 0, 1, height);
    },
    [extent, frames, channels, parts, threshold, place],
  );
  const step = frames / 200;
  return (
    <div
      ref={lane}
      role="slider"
      tabIndex={0}
      aria-label="Place to split"
      aria-valuemin={0}
      aria-valuemax={frames}
      aria-valuenow={Math.round(place)}
      className="h-40 cursor-crosshair touch-pan-y select-none border-y border-hairline"
      onPointerDown={({ clientX }) => {
        const box = lane.current?.getBoundingClientRect();
        if (box) onPlace(Math.round(((clientX - box.left) / box.width) * frames));
      }}
      onKeyDown={(event) => {
        const to = { ArrowLeft: place - step, ArrowRight: place + step, Home: 0, End: frames }[event.key];
        if (to === undefined) return;
        event.preventDefault();
        onPlace(Math.round(Math.max(0, Math.min(frames, to))));
      }}
    >
      <Canvas label={`Waveform with ${parts.length} parts`} className="size-full" draw={draw} />
    </div>
  );
}
