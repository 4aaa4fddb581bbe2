import { Radio, RadioGroup, Switch } from '@headlessui/react';
import { formatCount, formatSeconds } from '@tambur/core';
import { ArrowLeftToLine, ArrowRightToLine, Pause, Play, Repeat, SquareSplitHorizontal } from 'lucide-react';
import { useStore } from 'zustand';
import { type Cut, endAt, startAt } from '../sound/cut.ts';
import { listening } from '../sound/listening.ts';
import type { LaneName, LanePlayer } from '../sound/player.ts';
import { useAct } from '../ui/acts.ts';
import { Button } from '../ui/button.tsx';
import { KEYS, withKey } from './keys.ts';
import { ListeningMenu } from './listening-menu.tsx';
import type { DeviceState } from './use-lanes.ts';

interface Props {
  readonly player: LanePlayer;
  readonly cut: Cut;
  readonly onCut: (start: number, end: number) => void;
  /** Makes two clips of the one, parted at a frame. */
  readonly onSplit: (frame: number) => void;
  /** Frames of the source, and in a second. */
  readonly frames: number;
  readonly sampleRate: number;
  readonly hasResult: boolean;
  /** False if there is no whole yet: no device plays a piece. */
  readonly hasDevice: boolean;
  readonly device: DeviceState;
}

const HEARD = [
  { name: 'source', label: 'Source' },
  { name: 'result', label: 'Result' },
  { name: 'device', label: 'Device' },
] as const;

const NO_DEVICE = 'The device can be heard once the whole is there.';

/** Play, what is heard, loop, and where the playhead is, which can become an end of the cut. */
export function Transport({ player, cut, onCut, onSplit, frames, sampleRate, hasResult, hasDevice, device }: Props) {
  const { playing, heard, loop, problem } = useStore(player.store);
  const position = useStore(player.store, (state) => state.position);
  // Space on a button presses that button, as everywhere.
  useAct(KEYS.play, (event) => {
    if (event?.target instanceof HTMLButtonElement) return;
    event?.preventDefault();
    player.toggle();
  });
  useAct(KEYS.source, () => player.listen('source'));
  useAct(KEYS.result, () => player.listen('result'));
  useAct(KEYS.device, () => hasDevice && player.listen('device'));
  const here = () => Math.round(player.store.getState().position);
  const startHere = () => onCut(...startAt(here(), cut, frames));
  const endHere = () => onCut(...endAt(here(), cut, frames));
  const playCut = () => player.playFrom(cut.start);
  // With the loop on it goes on behind the end: its seam is in the middle.
  const playEnd = () => {
    const lead = Math.round(listening.getState().lead * sampleRate);
    player.playFrom(Math.max(cut.start, cut.end - lead));
  };
  useAct(KEYS.playCut, playCut);
  useAct(KEYS.playEnd, playEnd);
  useAct(KEYS.startHere, startHere);
  useAct(KEYS.endHere, endHere);
  const split = () => onSplit(here());
  useAct(KEYS.split, split);
  useAct(KEYS.loop, () => player.setLoop(!player.store.getState().loop));

  return (
    <div className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1">
      <Button
        kind="bare"
        aria-label={playing ? 'Pause' : 'Play'}
        title={withKey(playing ? 'Pause' : 'Play', 'play')}
        onClick={() => player.toggle()}
        className="flex size-9 items-center justify-center bg-ink text-paper hover:opacity-85"
      >
        {playing ? <Pause className="size-4" aria-hidden /> : <Play className="size-4" aria-hidden />}
      </Button>
      <RadioGroup
        aria-label="What is heard"
        className="flex border border-rule"
        value={heard}
        onChange={(name: LaneName) => player.listen(name)}
      >
        {HEARD.map(({ name, label }) => (
          <Radio
            key={name}
            value={name}
            disabled={(name === 'result' && !hasResult) || (name === 'device' && !hasDevice)}
            title={name === 'device' && hasResult && !hasDevice ? NO_DEVICE : withKey(label, name)}
            aria-busy={name === 'device' && device.isAwaited}
            className="cursor-pointer px-3 py-1 not-first:border-l not-first:border-rule data-checked:bg-ink data-checked:text-paper data-disabled:opacity-45 aria-busy:opacity-65 data-focus:outline-2 data-focus:outline-offset-2 data-focus:outline-pine"
          >
            {label}
          </Radio>
        ))}
      </RadioGroup>
      <Switch
        checked={loop}
        onChange={(value) => player.setLoop(value)}
        title={withKey('Loop', 'loop')}
        className="inline-flex cursor-pointer items-center gap-1.5 border border-rule px-3 py-1 data-checked:border-pine data-checked:bg-pine-tint data-focus:outline-2 data-focus:outline-offset-2 data-focus:outline-pine"
      >
        <Repeat className="size-3.5" aria-hidden /> Loop
      </Switch>
      <ListeningMenu loop={loop} onCut={playCut} onEnd={playEnd} />
      <span className="flex gap-1">
        <Button
          kind="icon"
          aria-label="Start the cut at the playhead"
          title={withKey('Start the cut at the playhead', 'startHere')}
          onClick={startHere}
        >
          <ArrowLeftToLine className="size-4" aria-hidden />
        </Button>
        <Button
          kind="icon"
          aria-label="End the cut at the playhead"
          title={withKey('End the cut at the playhead', 'endHere')}
          onClick={endHere}
        >
          <ArrowRightToLine className="size-4" aria-hidden />
        </Button>
        <Button
          kind="icon"
          aria-label="Split the clip at the playhead"
          title={withKey('Split the clip at the playhead', 'split')}
          disabled={position <= cut.start || position >= cut.end}
          onClick={split}
        >
          <SquareSplitHorizontal className="size-4" aria-hidden />
        </Button>
      </span>
      <span className="figure ml-auto text-sm" role="timer" aria-label="Playhead, from the start of the cut">
        {formatSeconds((position - cut.start) / sampleRate)}{' '}
        <span className="text-graphite">
          {formatCount(Math.round(position - cut.start))}
          <span className="sr-only"> frames</span>
        </span>
      </span>
      {device.refused && (
        <p role="alert" className="w-full text-sm text-brick">
          The device would play nothing: {device.refused}
        </p>
      )}
      {problem && (
        <p role="alert" className="w-full text-sm text-brick">
          {problem}
        </p>
      )}
    </div>
  );
}
