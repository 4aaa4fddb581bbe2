import {
  type ClipSettings,
  type RankedClip,
  STATIONS_WITH_ALTERNATIVES,
  type StationId,
  settingsOf,
  stationIds,
  stations,
  type Target,
} from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { type CSSProperties, useEffect, useMemo, useState } from 'react';
import { createPortal } from 'react-dom';
import { useStore } from 'zustand';
import { beginGesture, type JobStore } from '../job/job-store.ts';
import { chainOf, type SettledClip } from '../job/set.ts';
import type { Saving } from '../job/use-job-sync.ts';
import { SourceFacts } from '../shelf/source-facts.tsx';
import { useActs } from '../ui/acts.ts';
import { TitleField } from '../ui/field.tsx';
import { useKey } from '../ui/use-key.ts';
import { useIsSmall } from '../ui/use-narrow.ts';
import { Alternatives } from './alternatives.tsx';
import { ClipVerdict } from './clip-verdict.tsx';
import { KEYS } from './keys.ts';
import { LaneDivider } from './lane-divider.tsx';
import { LaneTitle, OneAxis } from './lane-title.tsx';
import { cutWords, resultWords, sourceWords, unitsOf } from './lane-words.ts';
import { Line } from './line.tsx';
import { looks, rememberView, viewOfClip } from './looks.ts';
import { type Pane, shownOnly } from './pane.ts';
import { ResultLane } from './result-lane.tsx';
import { SourceLane } from './source-lane.tsx';
import { StationPanel } from './station-panel.tsx';
import { TargetSheet } from './target-sheet.tsx';
import { Transport } from './transport.tsx';
import { useAlternatives } from './use-alternatives.ts';
import { useLanes } from './use-lanes.ts';
import { usePlayer } from './use-player.ts';
import { saysAll, usePreview } from './use-preview.ts';

interface Props {
  readonly store: JobStore;
  readonly saving: Saving;
  readonly clip: RankedClip;
  readonly source: SourceView;
  /** With its blanks, and with those of the job filled. */
  readonly edition: Target;
  readonly target: Target;
  readonly settled: SettledClip;
  /** What a small window shows, and where it has the transport, whatever that is. */
  readonly pane: Pane;
  readonly dock: HTMLElement | null;
  /** Shows the sheet, where it is not in sight. */
  readonly onSheet: () => void;
}

/** One clip: as it came, the line, as it will play; beside it the sheet. */
export function ClipBench({ store, saving, clip, source, edition, target, settled, pane, dock, onSheet }: Props) {
  const wishes = useStore(store, ({ job }) => job.wishes);
  const settings = useMemo(() => settingsOf(clip, { wishes }), [clip, wishes]);
  const { facts } = source;
  const chain = chainOf(settled);
  const player = usePlayer();
  const preview = usePreview(source, settled, player);
  const opened = useStore(looks, (state) => state.opened);
  const setOpened = (id: StationId | null) => looks.setState({ opened: id });
  const cut = useMemo(() => chain?.stations.cut.plan ?? { start: 0, end: facts.frames }, [chain, facts.frames]);
  const [isComparing, setComparing] = useState(false);
  const comparedStation = isComparing && opened && STATIONS_WITH_ALTERNATIVES.includes(opened) ? opened : null;
  const compared = useAlternatives(source, chain, comparedStation, player);
  const device = useLanes(player, { source, cut, preview, target: chain?.order.target ?? target, compared });
  const [view, setView] = useState(() => viewOfClip(clip.id, facts.frames));
  useEffect(() => rememberView(clip.id, view), [clip.id, view]);
  const units = useMemo(() => unitsOf(chain, target), [chain, target]);

  const change = (settingsChange: Partial<ClipSettings>) => store.getState().changeSettings(clip.id, settingsChange);
  const setCut = (start: number, end: number) => change({ cut: { start, end } });

  useKey(KEYS.stations.keys, ({ key }) => {
    const other = compared[Number(key) - 1];
    if (compared.length > 0) return other?.sound && player.hear(other.label);
    const id = stationIds[Number(key) - 1];
    if (id) setOpened(opened === id ? null : id);
  });

  useActs(
    stationIds.map((id, i) => ({
      label: `Station: ${stations[id].title}`,
      shown: `${i + 1}`,
      go: () => setOpened(id),
    })),
  );

  const isSmall = useIsSmall();
  const { made } = preview;
  const takeWay = (id: StationId, wish: unknown) => change({ [id]: wish } as Partial<ClipSettings>);
  const transport = (
    <Transport
      player={player}
      cut={cut}
      onCut={setCut}
      onSplit={(frame) => store.getState().splitClip(clip.id, frame)}
      frames={facts.frames}
      sampleRate={facts.sampleRate}
      hasResult={made !== null}
      hasDevice={made !== null && saysAll(made)}
      device={device}
    />
  );
  const isOpen = opened !== null && chain !== null;
  const laneHeight = useStore(looks, (state) => state.laneHeight);
  return (
    <>
      <div
        className={`flex min-h-0 min-w-0 flex-col overflow-y-auto wide:flex-row wide:overflow-hidden ${shownOnly('bench', pane)}`}
      >
        <section
          aria-label="Lanes"
          style={{ '--lane': `${laneHeight}px` } as CSSProperties}
          className={`min-w-0 shrink-0 px-4 pt-2 sm:px-6 wide:flex-1 wide:shrink wide:overflow-y-auto ${isOpen ? 'pb-3 lg:max-wide:pb-1.5' : 'pb-3'}`}
        >
          <div className="flex items-baseline gap-x-4 whitespace-nowrap">
            <h2 className="max-w-[65%] min-w-24 shrink-0">
              <TitleField
                label="Name of the clip"
                className="text-xl font-semibold"
                value={settings.name}
                onChange={(name) => change({ name })}
              />
            </h2>
            <span className="min-w-0 truncate text-sm text-graphite" title={source.name}>
              from {source.name}
            </span>
            {chain && (
              <span className="min-w-0 truncate text-sm text-pine" title={chain.fileName}>
                to {chain.fileName}
              </span>
            )}
          </div>

          <LaneTitle title="As it came" tone="text-graphite" facts={sourceWords(facts)}>
            <SourceFacts source={source} onTrack={(other) => store.getState().changeSource(clip.id, other)} />
          </LaneTitle>
          <SourceLane
            source={source}
            view={view}
            setView={setView}
            units={units}
            cut={cut}
            player={player}
            cutWords={cutWords(cut, facts.sampleRate, chain)}
            onCut={setCut}
            onGesture={() => beginGesture(store)}
            isLow={isOpen}
          />

          <Line chain={chain} report={made?.report ?? null} opened={opened} onOpen={setOpened} />

          <LaneTitle
            title="As it will play"
            tone="text-pine"
            facts={made ? resultWords(made.facts, made.chain, saysAll(made)) : []}
          >
            <OneAxis />
          </LaneTitle>
          <ResultLane
            preview={preview}
            player={player}
            cut={cut}
            source={facts}
            view={view}
            setView={setView}
            bar={units.bar}
            beats={units.beats}
            isLow={isOpen}
          />
          <ClipVerdict chain={chain} preview={preview} isLow={isOpen} onWay={takeWay} onSheet={onSheet} />
          {isSmall ? dock && createPortal(transport, dock) : transport}
        </section>
        {isOpen && <LaneDivider />}
        {isOpen && (
          <StationPanel
            id={opened}
            clip={clip}
            chain={chain}
            settings={settings}
            source={source}
            target={target}
            preview={made}
            store={store}
            saving={saving}
            onChange={change}
            onClose={() => setOpened(null)}
          >
            {STATIONS_WITH_ALTERNATIVES.includes(opened) && (
              <Alternatives
                compared={compared}
                player={player}
                target={target}
                isOpen={isComparing}
                onOpen={setComparing}
                onTake={(wish) => takeWay(opened, wish)}
              />
            )}
          </StationPanel>
        )}
      </div>
      <TargetSheet
        store={store}
        clip={clip}
        edition={edition}
        target={chain?.order.target ?? target}
        chain={chain}
        source={source}
        preview={preview}
        className={shownOnly('sheet', pane)}
        onChange={takeWay}
      />
    </>
  );
}
