import {
  type Chain,
  type ClipSettings,
  containerTitle,
  encodingTitle,
  formatBytes,
  formatChannels,
  formatCount,
  formatLength,
  formatRate,
  formatSeconds,
  type RankedClip,
  type StationId,
  settingsOf,
  soundBytesOf,
  stationIds,
  type Target,
} from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useMemo, useState } from 'react';
import { createPortal } from 'react-dom';
import { useStore } from 'zustand';
import { SourceFacts } from '../shelf/source-facts.tsx';
import type { Cut } from '../sound/cut.ts';
import { TitleField } from '../ui/field.tsx';
import { useKey } from '../ui/use-key.ts';
import { useIsSmall } from '../ui/use-narrow.ts';
import { ClipVerdict } from './clip-verdict.tsx';
import { beginGesture, type JobStore } from './job-store.ts';
import { KEYS } from './keys.ts';
import { Line } from './line.tsx';
import { type Pane, shownOnly } from './pane.ts';
import { ResultLane } from './result-lane.tsx';
import type { SettledClip } from './set.ts';
import { SourceLane } from './source-lane.tsx';
import { StationPanel } from './station-panel.tsx';
import { TargetSheet } from './target-sheet.tsx';
import { Transport } from './transport.tsx';
import type { Saving } from './use-job-sync.ts';
import { usePlayer } from './use-player.ts';
import { usePreview } from './use-preview.ts';

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
  const chain = 'chain' in settled ? settled.chain : null;
  const preview = usePreview(source, settled);
  const [opened, setOpened] = useState<StationId | null>('cut');
  const cut = chain?.stations.cut.plan ?? { start: 0, end: facts.frames };
  const player = usePlayer(source, cut, preview.made?.pcm ?? null);

  const change = (settingsChange: Partial<ClipSettings>) => store.getState().changeSettings(clip.id, settingsChange);
  const setCut = (start: number, end: number) => change({ cut: { start, end } });

  useKey(KEYS.stations.keys, ({ key }) => {
    const id = stationIds[Number(key) - 1] ?? null;
    setOpened((before) => (before === id ? null : id));
  });

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
    />
  );
  const isOpen = opened !== null && chain !== null;
  return (
    <>
      <div
        className={`flex min-h-0 min-w-0 flex-col overflow-y-auto wide:flex-row wide:overflow-hidden ${shownOnly('bench', pane)}`}
      >
        <section
          aria-label="Lanes"
          className="min-w-0 shrink-0 px-4 pt-2 pb-3 sm:px-6 wide:flex-1 wide:shrink wide:overflow-y-auto"
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
          />
          <SourceLane
            source={source}
            cut={cut}
            player={player}
            cutWords={cutWords(cut, facts.sampleRate, chain)}
            onCut={setCut}
            onGesture={() => beginGesture(store)}
          />
          <SourceFacts source={source} onTrack={(other) => store.getState().changeSource(clip.id, other)} />

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
                    formatSeconds(made.facts.frames / made.facts.sampleRate),
                    `${formatCount(made.facts.frames)} frames`,
                    formatBytes(made.facts.bytes),
                  ]
                : []
            }
          />
          <ResultLane preview={preview} player={player} cut={cut} sourceRate={facts.sampleRate} />
          <ClipVerdict chain={chain} preview={preview} onWay={takeWay} onSheet={onSheet} />
          {isSmall ? dock && createPortal(transport, dock) : transport}
        </section>
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
          />
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

interface LaneTitleProps {
  readonly title: string;
  readonly tone: string;
  readonly facts: readonly (string | null)[];
}

/** What a lane shows, on one line; what finds no room on it is said to those who point at it. */
function LaneTitle({ title, tone, facts }: LaneTitleProps) {
  const known = facts.filter((fact) => fact !== null);
  return (
    <div className="mt-1.5 mb-0.5 truncate text-sm" title={known.join(', ')}>
      <h3 className={`label inline ${tone}`}>{title}</h3>
      {known.map((fact) => (
        <span key={fact} className="figure ml-3">
          {fact}
        </span>
      ))}
    </div>
  );
}
