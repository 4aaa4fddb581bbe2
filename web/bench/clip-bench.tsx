import {
  type ClipSettings,
  containerTitle,
  encodingTitle,
  formatBytes,
  formatChannels,
  formatCount,
  formatRate,
  formatSeconds,
  type RankedClip,
  type StationId,
  settingsOf,
  stationIds,
  type Target,
} from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { SourceFacts } from '../shelf/source-facts.tsx';
import { TitleField } from '../ui/field.tsx';
import { useKey } from '../ui/use-key.ts';
import { beginGesture, type JobStore } from './job-store.ts';
import { Line } from './line.tsx';
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
  readonly target: Target;
  readonly settled: SettledClip;
}

/** The digits that open the stations, in the order of the line. */
const STATION_KEYS = stationIds.map((_, i) => i + 1).join(',');

/** One clip: as it came, the line, as it will play; beside it the sheet. */
export function ClipBench({ store, saving, clip, source, target, settled }: Props) {
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

  useKey(STATION_KEYS, ({ key }) => {
    const id = stationIds[Number(key) - 1] ?? null;
    setOpened((before) => (before === id ? null : id));
  });

  const { made } = preview;
  return (
    <div className="grid grid-cols-1 xl:grid-cols-[minmax(0,1fr)_18.5rem]">
      <div className="flex min-w-0 flex-col px-4 py-3 sm:px-6">
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h2 className="min-w-0">
            <TitleField
              label="Name of the clip"
              className="text-2xl font-semibold"
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

        <LaneTitle title="As it came" tone="text-graphite">
          {formatRate(facts.sampleRate)}
          {formatChannels(facts.channels)}
          {facts.bitDepth ? `${facts.bitDepth} bit` : encodingTitle(facts.encoding)}
          {facts.bitDepth ? encodingTitle(facts.encoding).replace(/^\d+-bit /, '') : null}
          {facts.container === facts.encoding ? null : containerTitle(facts.container)}
          {formatSeconds(facts.frames / facts.sampleRate)}
          {`${formatCount(facts.frames)} frames`}
          {formatBytes(facts.bytes)}
        </LaneTitle>
        <SourceLane source={source} cut={cut} player={player} onCut={setCut} onGesture={() => beginGesture(store)} />
        <SourceFacts source={source} onTrack={(other) => store.getState().changeSource(clip.id, other)} />

        <Line chain={chain} report={made?.report ?? null} opened={opened} onOpen={setOpened} />

        <LaneTitle title="As it will play" tone="text-pine">
          {made && formatRate(made.facts.sampleRate)}
          {made && formatChannels(made.facts.channels)}
          {made && encodingTitle(made.facts.encoding)}
          {made && formatSeconds(made.facts.frames / made.facts.sampleRate)}
          {made && `${formatCount(made.facts.frames)} frames`}
          {made && formatBytes(made.facts.bytes)}
        </LaneTitle>
        <ResultLane preview={preview} player={player} cut={cut} sourceRate={facts.sampleRate} />
        <Transport player={player} cut={cut} sampleRate={facts.sampleRate} report={made?.report ?? null} />

        {opened && chain && (
          <StationPanel
            id={opened}
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
        target={target}
        chain={chain}
        source={source}
        preview={preview}
        onChange={(id, wish) => change({ [id]: wish } as Partial<ClipSettings>)}
      />
    </div>
  );
}

function LaneTitle({ title, tone, children }: { title: string; tone: string; children: React.ReactNode }) {
  const items = (Array.isArray(children) ? children : [children]).filter(Boolean);
  return (
    <div className="mt-3 mb-1 flex flex-wrap items-baseline gap-x-3 gap-y-0.5 text-sm">
      <h3 className={`label ${tone}`}>{title}</h3>
      {items.map((item) => (
        <span key={String(item)} className="figure">
          {item}
        </span>
      ))}
    </div>
  );
}
