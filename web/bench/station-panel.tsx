import { type ClipSettings, type StationId, stations } from '@tambur/core';
import { X } from 'lucide-react';
import type { FunctionComponent, ReactNode } from 'react';
import { Button } from '../ui/button.tsx';
import { ChannelsPanel } from './panels/channels-panel.tsx';
import { CutPanel } from './panels/cut-panel.tsx';
import { DepthPanel } from './panels/depth-panel.tsx';
import { EndsPanel } from './panels/ends-panel.tsx';
import { LevelPanel } from './panels/level-panel.tsx';
import type { PanelProps } from './panels/panel.ts';
import { RatePanel } from './panels/rate-panel.tsx';
import { WrapPanel } from './panels/wrap-panel.tsx';
import { WishOrigin } from './wish-origin.tsx';

/** One panel for each station. */
const panels: Record<StationId, FunctionComponent<PanelProps>> = {
  cut: CutPanel,
  channels: ChannelsPanel,
  rate: RatePanel,
  level: LevelPanel,
  ends: EndsPanel,
  depth: DepthPanel,
  wrap: WrapPanel,
};

interface Props extends PanelProps {
  readonly id: StationId;
  readonly onClose: () => void;
  readonly children?: ReactNode;
}

/** The opened station: its choices and what they cost. */
export function StationPanel({ id, onClose, children, ...rest }: Props) {
  const Panel = panels[id];
  const { byHand, why } = rest.chain.stations[id];
  const automatic = () => rest.onChange({ [id]: 'automatic' } as Partial<ClipSettings>);
  return (
    <section
      id="station"
      aria-label={stations[id].title}
      className="@container shrink-0 bg-sheet px-4 py-2 max-lg:border-t-2 max-lg:border-pine sm:px-6 lg:min-h-40 lg:flex-1 lg:overflow-y-auto lg:max-wide:pt-0 wide:w-[27rem] wide:flex-none wide:border-l wide:border-hairline"
    >
      <div className="flex flex-wrap items-start gap-x-3">
        <h3 className="flex-1 text-lg leading-tight font-semibold @xl:flex-none">{stations[id].title}</h3>
        <p className="order-last mt-0.5 min-w-0 basis-full text-sm text-graphite @xl:order-none @xl:flex-1 @xl:basis-0">
          {why}
        </p>
        <WishOrigin id={id} clip={rest.clip} byHand={byHand} store={rest.store} onAutomatic={automatic} />
        <Button kind="quiet" aria-label={`Close ${stations[id].title}`} onClick={onClose}>
          <X className="size-4" aria-hidden />
        </Button>
      </div>
      <div className="mt-1.5">
        <Panel {...rest} />
        {children}
      </div>
    </section>
  );
}
