import {
  type Chain,
  type ClipSettings,
  containerTitle,
  encodingTitle,
  type Facts,
  findOutContainer,
  formatBytes,
  formatChannels,
  formatCount,
  formatLength,
  formatRate,
  formatSeconds,
  type RankedClip,
  STATIONS_WITH_ALTERNATIVES,
  type StationId,
  settingsOf,
  soundBytesOf,
  stationIds,
  stations,
  type Target,
} from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { AlignHorizontalJustifyStart } from 'lucide-react';
import { type CSSProperties, type ReactNode, useEffect, useMemo, useState } from 'react';
import { createPortal } from 'react-dom';
import { useStore } from 'zustand';
import { beginGesture, type JobStore } from '../job/job-store.ts';
import { chainOf, type SettledClip } from '../job/set.ts';
import type { Saving } from '../job/use-job-sync.ts';
import { SourceFacts } from '../shelf/source-facts.tsx';
import type { Cut } from '../sound/cut.ts';
import type { Grid } from '../sound/snap.ts';
import { useAct, useActs } from '../ui/acts.ts';
import { Button } from '../ui/button.tsx';
import { TitleField } from '../ui/field.tsx';
import { useKey } from '../ui/use-key.ts';
import { useIsSmall } from '../ui/use-narrow.ts';
import { Alternatives } from './alternatives.tsx';
import { ClipVerdict } from './clip-verdict.tsx';
import { KEYS, withKey } from './keys.ts';
import { LaneDivider } from './lane-divider.tsx';
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
  const cut = chain?.stations.cut.plan ?? { start: 0, end: facts.frames };
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

          <LaneTitle
            title="As it came"
            tone="text-graphite"
            facts={[
              formatRate(facts.sampleRate),
              formatChannels(facts.channels),
              facts.bitDepth ? `${facts.bitDepth} bit` : encodingTitle(facts.encoding),
              facts.bitDepth ? encodingTitle(facts.encoding).replace(/^\d+-bit /, '') : null,
              facts.container === facts.encoding ? null : containerTitle(facts.container),
              formatSeconds(facts.frames / facts.sampleRate),
              `${formatCount(facts.frames)} frames`,
              formatBytes(facts.bytes),
            ]}
          >
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
            facts={
              made
                ? [
                    formatRate(made.facts.sampleRate),
                    formatChannels(made.facts.channels),
                    encodingTitle(made.facts.encoding),
                    ...(!saysAll(made)
                      ? plannedWords(made.chain)
                      : [
                          sizeWords(made.facts),
                          formatSeconds(made.facts.frames / made.facts.sampleRate),
                          `${formatCount(made.facts.frames)} frames`,
                          textWords(made.facts),
                        ]),
                  ]
                : []
            }
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

/** What a block of the device, and a bar at its tempo, come to in frames of the source. */
function unitsOf(chain: Chain | null, target: Target): Pick<Grid, 'block' | 'bar'> & { readonly beats: number } {
  if (!chain) return { block: null, bar: null, beats: 1 };
  const { ends, rate } = chain.stations;
  const { rule } = ends.plan;
  const toSource = rate.plan.from / rate.plan.to;
  const bars = target.requirements.find((requirement) => requirement.kind === 'bars');
  return {
    block: rule.kind === 'blocks' && rule.multipleOf > 1 ? rule.multipleOf * toSource : null,
    bar: bars?.kind === 'bars' ? (bars.beats * 60 * chain.order.facts.sampleRate) / bars.tempo : null,
    beats: bars?.kind === 'bars' ? bars.beats : 1,
  };
}

const isSourceCode = ({ array, container }: Facts): boolean =>
  array !== undefined || findOutContainer(container)?.textOptions !== undefined;

/** How much room a file takes: of source code what the device's memory holds of it. */
const sizeWords = (facts: Facts): string =>
  isSourceCode(facts) ? `${formatCount(facts.soundBytes ?? facts.bytes)} bytes in memory` : formatBytes(facts.bytes);

/** How long the text of source code is, which nobody has to make room for. */
const textWords = (facts: Facts): string | null => (isSourceCode(facts) ? `${formatBytes(facts.bytes)} as text` : null);

/** How long and how large the whole will be, of which only a piece is there yet. */
function plannedWords(chain: Chain): string[] {
  const { ends, rate } = chain.stations;
  return [
    formatSeconds(ends.plan.frames / rate.plan.to),
    `${formatCount(ends.plan.frames)} frames`,
    `about ${formatBytes(soundBytesOf(chain))}`,
  ];
}

/** How long a cut is, and what becomes of it: "0.910 s, 40 131 frames: 14 560 frames, 61 blocks, 14.6 kB". */
function cutWords({ start, end }: Cut, sampleRate: number, chain: Chain | null): string {
  const came = formatLength(end - start, sampleRate);
  if (!chain) return came;
  const { frames, rule } = chain.stations.ends.plan;
  const block = rule.kind === 'blocks' ? rule.multipleOf : 1;
  return `${came}: ${[
    `${formatCount(frames)} frames`,
    ...(block > 1 ? [`${formatCount(frames / block)} blocks of ${formatCount(block)}`] : []),
    formatBytes(soundBytesOf(chain)),
  ].join(', ')}`;
}

/** Both lanes on one axis of time, or each on its own. */
function OneAxis() {
  const isAligned = useStore(looks, (state) => state.isAligned);
  const toggle = () => looks.setState({ isAligned: !isAligned });
  useAct(KEYS.align, toggle);
  return (
    <Button
      kind="quiet"
      className="shrink-0 text-xs"
      aria-pressed={isAligned}
      title={withKey('The result below its cut, on the time of the source', 'align')}
      onClick={toggle}
    >
      <AlignHorizontalJustifyStart className="size-3.5" aria-hidden /> {isAligned ? 'time of the source' : 'own time'}
    </Button>
  );
}

interface LaneTitleProps {
  readonly title: string;
  readonly tone: string;
  readonly facts: readonly (string | null)[];
  readonly children?: ReactNode;
}

/** What a lane shows, on one line; what finds no room on it is said to those who point at it. */
function LaneTitle({ title, tone, facts, children }: LaneTitleProps) {
  const known = facts.filter((fact) => fact !== null);
  return (
    <div className="mt-1.5 mb-0.5 flex h-6 items-center gap-x-3 text-sm">
      <div className="min-w-0 flex-1 truncate" title={known.join(', ')}>
        <h3 className={`label inline ${tone}`}>{title}</h3>
        {known.map((fact) => (
          <span key={fact} className="figure ml-3">
            {fact}
          </span>
        ))}
      </div>
      {children}
    </div>
  );
}
