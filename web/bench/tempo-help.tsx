import { askedBy, BAR_RANGES, type Chain, centsOf, clamp, formatSeconds, type StationId } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useQuery } from '@tanstack/react-query';
import { useRef } from 'react';
import { tempoOfTaps, withTap } from '../sound/taps.ts';
import { measureWorker } from '../sound/workers/workers.ts';
import { Button } from '../ui/button.tsx';
import { wishWith } from './panels/wish.ts';

interface TempoProps {
  readonly source: SourceView;
  readonly cut: { readonly start: number; readonly end: number };
  readonly onTake: (tempo: number) => void;
}

const rounded = (tempo: number): number => Math.round(tempo * 10) / 10;

/** Tempos that the cut may have, each a click away; and a button to tap one on. */
export function TempoHelp({ source, cut: { start, end }, onTake }: TempoProps) {
  const found = useQuery({
    queryKey: ['tempo', source.id, start, end],
    queryFn: () => measureWorker.run((remote) => remote.tempoOfCut(source, start, end)),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
  });
  const taps = useRef<readonly number[]>([]);
  const tap = () => {
    taps.current = withTap(taps.current, performance.now());
    const tempo = tempoOfTaps(taps.current);
    const { least, most } = BAR_RANGES.tempo;
    if (tempo !== null) onTake(rounded(clamp(tempo, least, most)));
  };
  const { best, second } = found.data ?? { best: null, second: null };
  const likely = best ? [best.tempo, best.tempo / 2, best.tempo * 2, ...(second ? [second.tempo] : [])] : [];
  const inRange = likely.map(rounded).filter((each) => each >= BAR_RANGES.tempo.least && each <= BAR_RANGES.tempo.most);
  return (
    <div className="flex flex-wrap items-center gap-1 text-xs">
      {found.data === null && <span className="text-graphite">The cut has no tempo of its own.</span>}
      {inRange.length > 0 && <span className="text-graphite">It may have</span>}
      {[...new Set(inRange)].map((each, i) => (
        <Button
          key={each}
          kind="quiet"
          className={i === 0 ? 'font-semibold text-ink!' : ''}
          aria-label={`Take the tempo ${each}`}
          onClick={() => onTake(each)}
        >
          <span className="figure">{each}</span>
        </Button>
      ))}
      <Button kind="quiet" className="border border-rule" title="Tap the beat: three times or more" onClick={tap}>
        Tap
      </Button>
    </div>
  );
}

interface BarsProps {
  readonly chain: Chain;
  readonly onWish: (station: StationId, wish: unknown) => void;
}

/** Shorter differences are made by rounding, seconds. */
const LEAST = 0.0005;

/** How the cut lies beside whole bars, and the other way to make it fit: at another speed, or cut and padded. */
export function BarsHelp({ chain, onWish }: BarsProps) {
  const { ends, rate } = chain.stations;
  const bars = askedBy(chain.order.target).find((requirement) => requirement.kind === 'bars');
  const { rule, incoming } = ends.plan;
  if (bars?.kind !== 'bars' || rule.kind !== 'exact') return null;
  const { beats, tempo } = bars;
  const count = Math.round((rule.frames * tempo) / (60 * beats * rate.plan.to));
  const off = (incoming - rule.frames) / rate.plan.to;
  if (count < 1 || Math.abs(off) < LEAST) return null;
  const isStretched = rule.by === 'stretch';
  const set = (fit: 'stretch' | undefined) => onWish('ends', wishWith(chain.order.settings.ends, { fit }));
  const cents = centsOf(incoming, rule.frames);
  const speed = `${cents > 0 ? 'faster, up' : 'slower, down'} by ${Math.abs(cents).toFixed(1)} cents`;
  const done = isStretched ? `played ${speed}` : off > 0 ? 'cut' : 'padded';
  return (
    <p className="text-sm">
      The cut is {formatSeconds(Math.abs(off))} {off > 0 ? 'longer' : 'shorter'} than {count}{' '}
      {count === 1 ? 'bar' : 'bars'}: it is {done}.{' '}
      <Button kind="link" onClick={() => set(isStretched ? undefined : 'stretch')}>
        {isStretched ? (off > 0 ? 'Cut it instead' : 'Pad it instead') : `Play it ${speed} instead`}
      </Button>
    </p>
  );
}
