import { Radio, RadioGroup, Switch } from '@headlessui/react';
import { formatCount, formatDb, formatSeconds, type RenderReport } from '@tambur/core';
import { ArrowLeftToLine, ArrowRightToLine, Pause, Play, Repeat } from 'lucide-react';
import { useStore } from 'zustand';
import { type Cut, endAt, startAt } from '../sound/cut.ts';
import type { Heard, Player } from '../sound/player.ts';
import { Button } from '../ui/button.tsx';
import { useKey } from '../ui/use-key.ts';

interface Props {
  readonly player: Player;
  readonly cut: Cut;
  readonly onCut: (start: number, end: number) => void;
  /** Frames of the source, and in a second. */
  readonly frames: number;
  readonly sampleRate: number;
  /** Null where there is no result. */
  readonly report: Readonly<RenderReport> | null;
}

/** How much more gain would reach full scale, or what flattens. */
function Headroom({ report: { headroomDb, clippedFrames, limited } }: { report: Readonly<RenderReport> }) {
  if (headroomDb === null) return null;
  const isTrouble = clippedFrames > 0;
  return (
    <span className={`text-sm ${isTrouble ? 'font-semibold text-brick' : 'text-graphite'}`}>
      {isTrouble ? (
        <>
          <span className="figure">{formatCount(clippedFrames)}</span> frames flattened
        </>
      ) : limited ? (
        'limited'
      ) : (
        <>
          headroom <span className="figure">{formatDb(headroomDb, 'dB')}</span>
        </>
      )}
    </span>
  );
}

const HEARD = [
  { name: 'source', label: 'Source', key: 'S' },
  { name: 'result', label: 'Result', key: 'R' },
] as const;

/** Play, what is heard, loop, the headroom, and where the playhead is. */
export function Transport({ player, cut, onCut, frames, sampleRate, report }: Props) {
  const { playing, heard, loop, problem } = useStore(player.store);
  const position = useStore(player.store, (state) => state.position);
  // Space on a button presses that button, as everywhere.
  useKey('space', (event) => {
    if (event.target instanceof HTMLButtonElement) return;
    event.preventDefault();
    player.toggle();
  });
  useKey('s', () => player.listen('source'));
  useKey('r', () => player.listen('result'));
  const here = () => Math.round(player.store.getState().position);
  const startHere = () => onCut(...startAt(here(), cut, frames));
  const endHere = () => onCut(...endAt(here(), cut, frames));
  useKey('i', startHere);
  useKey('o', endHere);
  useKey('l', () => player.setLoop(!player.store.getState().loop));

  return (
    <div className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1 sm:gap-x-4">
      <Button
        kind="bare"
        aria-label={playing ? 'Pause' : 'Play'}
        title={`${playing ? 'Pause' : 'Play'} (Space)`}
        onClick={() => player.toggle()}
        className="flex size-9 items-center justify-center bg-ink text-paper hover:opacity-85"
      >
        {playing ? <Pause className="size-4" aria-hidden /> : <Play className="size-4" aria-hidden />}
      </Button>
      <RadioGroup
        aria-label="What is heard"
        className="flex border border-rule"
        value={heard}
        onChange={(name: Heard) => player.listen(name)}
      >
        {HEARD.map(({ name, label, key }) => (
          <Radio
            key={name}
            value={name}
            disabled={name === 'result' && !report}
            title={`${label} (${key})`}
            className="cursor-pointer px-3 py-1 not-first:border-l not-first:border-rule data-checked:bg-ink data-checked:text-paper data-disabled:opacity-45 data-focus:outline-2 data-focus:outline-offset-2 data-focus:outline-pine"
          >
            {label}
          </Radio>
        ))}
      </RadioGroup>
      <Switch
        checked={loop}
        onChange={(value) => player.setLoop(value)}
        title="Loop (L)"
        className="inline-flex cursor-pointer items-center gap-1.5 border border-rule px-3 py-1 data-checked:border-pine data-checked:bg-pine-tint data-focus:outline-2 data-focus:outline-offset-2 data-focus:outline-pine"
      >
        <Repeat className="size-3.5" aria-hidden /> Loop
      </Switch>
      <span className="flex gap-1">
        <Button
          kind="icon"
          aria-label="Start the cut at the playhead"
          title="Start the cut at the playhead (I)"
          onClick={startHere}
        >
          <ArrowLeftToLine className="size-4" aria-hidden />
        </Button>
        <Button
          kind="icon"
          aria-label="End the cut at the playhead"
          title="End the cut at the playhead (O)"
          onClick={endHere}
        >
          <ArrowRightToLine className="size-4" aria-hidden />
        </Button>
      </span>
      {report && <Headroom report={report} />}
      <span className="figure ml-auto text-sm" role="timer" aria-label="Playhead, from the start of the cut">
        {formatSeconds((position - cut.start) / sampleRate)}{' '}
        <span className="text-graphite">{formatCount(Math.round(position - cut.start))} frames</span>
      </span>
      {problem && (
        <p role="alert" className="w-full text-sm text-brick">
          {problem}
        </p>
      )}
    </div>
  );
}
