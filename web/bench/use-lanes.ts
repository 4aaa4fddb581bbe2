import type { PcmReader, Target } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useMemo } from 'react';
import { useStore } from 'zustand';
import type { Cut } from '../sound/cut.ts';
import { listening } from '../sound/listening.ts';
import type { LanePlayer } from '../sound/player.ts';
import { soundOfWhole, storedReader } from '../sound/samples.ts';
import type { Compared } from './use-alternatives.ts';
import { useDevice } from './use-device.ts';
import { matched, useLoudness } from './use-matching.ts';
import { type Beside, useMaterial } from './use-player.ts';
import type { PreviewState } from './use-preview.ts';

interface LaneOrder {
  readonly source: SourceView;
  readonly cut: Cut;
  readonly preview: PreviewState;
  readonly target: Target;
  readonly compared: readonly Compared[];
}

/** How it stands with what the device plays, where that is what is listened to. */
export interface DeviceState {
  /** True until it is known what it plays; the result is heard until then. */
  readonly isAwaited: boolean;
  /** Why it plays nothing. */
  readonly refused: string | null;
}

/** Everything that can be heard of a clip goes into its player: source, result, the device, what is compared. */
export function useLanes(player: LanePlayer, { source, cut, preview, target, compared }: LaneOrder): DeviceState {
  const { pieces, made } = preview;
  const byPieces = useMemo<PcmReader | null>(() => pieces?.reader() ?? null, [pieces]);
  const stored = made?.stored ?? null;
  const byRanges = useMemo<PcmReader | null>(() => stored && storedReader(soundOfWhole(stored)), [stored]);
  const result = byPieces ?? byRanges ?? made?.pcm ?? null;
  const wantsDevice = useStore(player.store, ({ heard }) => heard === 'device');
  const device = useDevice(made, target, source.facts.sampleRate, wantsDevice);
  const isMatched = useStore(listening, (state) => state.isMatched);
  const loudness = useLoudness(source, cut, target, isMatched);

  // Lanes come when all of what is compared is there: each change of them is a start of its own.
  const isDone = compared.every((each) => each.sound || each.refused);
  const others = isDone ? compared : null;
  const gains = useMemo(
    () =>
      matched({
        source: isMatched ? loudness : null,
        result: isMatched ? (made?.facts.measures.loudness ?? null) : null,
        ...Object.fromEntries(
          (others ?? []).map((each) => [each.label, isMatched ? (each.made?.facts.measures.loudness ?? null) : null]),
        ),
      }),
    [isMatched, loudness, made, others],
  );
  const lanes = useMemo(() => {
    const all: Record<string, Beside> = {};
    const add = (name: string, sound: Beside['sound'] | null, gain: number | undefined) => {
      if (sound) all[name] = { sound, gain: gain ?? 1 };
    };
    add('result', result, gains.result);
    add('device', device.sound, gains.result);
    for (const { label, sound } of others ?? []) add(label, sound, (gains as Record<string, number>)[label]);
    return all;
  }, [result, device.sound, others, gains]);
  useMaterial(player, source, cut, lanes, gains.source);
  return { isAwaited: device.isAwaited, refused: wantsDevice ? device.refused : null };
}
