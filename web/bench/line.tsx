import { type Chain, type RenderReport, type StationId, stationIds, stations } from '@tambur/core';
import { type CSSProperties, useState } from 'react';
import { Button } from '../ui/button.tsx';

interface Props {
  readonly chain: Chain | null;
  readonly report: Readonly<RenderReport> | null;
  readonly opened: StationId | null;
  readonly onOpen: (id: StationId | null) => void;
}

/** The line of stations between the lanes. Hollow: automatic; filled: set by hand; square: trouble. */
export function Line({ chain, report, opened, onOpen }: Props) {
  const [pointedAt, setPointedAt] = useState<StationId | null>(null);
  const reason = pointedAt && chain?.stations[pointedAt].why;
  /** An open station says its reason itself, and the others to those who point at them. */
  const hasLine = opened === null;
  return (
    <>
      <ol
        aria-label="Stations"
        style={{ '--stations': stationIds.length } as CSSProperties}
        className="relative mt-2 grid grid-cols-4 gap-y-1 sm:grid-cols-[repeat(var(--stations),minmax(0,1fr))]"
      >
        <li aria-hidden className="absolute inset-x-4 top-[0.6rem] hidden h-px bg-rule sm:block" />
        {stationIds.map((id, index) => {
          const settled = chain?.stations[id];
          const outcome = report && stations[id].outcome?.(report);
          const inTrouble =
            !settled || chain.obstacles.some(({ station }) => station === id) || outcome?.isTrouble === true;
          const state = inTrouble ? 'trouble' : settled.byHand ? 'set by hand' : 'automatic';
          const figure = settled && (outcome?.figure ?? settled.figure);
          return (
            <li key={id} className="relative text-center">
              <Button
                kind="bare"
                aria-expanded={opened === id}
                aria-controls="station"
                aria-describedby={hasLine ? 'reason' : undefined}
                title={[`${stations[id].title} (${index + 1})`, ...(hasLine || !settled ? [] : [settled.why])].join(
                  ': ',
                )}
                onFocus={() => setPointedAt(id)}
                onBlur={() => setPointedAt(null)}
                onPointerEnter={() => setPointedAt(id)}
                onPointerLeave={() => setPointedAt(null)}
                onClick={() => onOpen(opened === id ? null : id)}
                className={`w-full px-0.5 pb-1 ${opened === id ? 'bg-pine-tint' : 'hover:bg-sheet'}`}
              >
                <Dot state={state} />
                <span className="block text-sm font-semibold">{stations[id].title}</span>
                <span className="figure block truncate text-sm leading-tight">{figure ?? '–'}</span>
                <span className="sr-only">{state}</span>
              </Button>
            </li>
          );
        })}
      </ol>
      {/* Always there, so that nothing moves when a reason comes and goes. */}
      {hasLine && (
        <p id="reason" className="min-h-[1.4em] truncate text-sm text-graphite max-lg:whitespace-normal">
          {reason && (
            <>
              <span className="font-semibold text-ink">{stations[pointedAt].title}.</span> {reason}
            </>
          )}
        </p>
      )}
    </>
  );
}

function Dot({ state }: { state: 'automatic' | 'set by hand' | 'trouble' }) {
  const tone = state === 'trouble' ? 'text-brick' : 'text-pine';
  return (
    <svg viewBox="0 0 20 20" className={`mx-auto size-5 ${tone}`} aria-hidden="true">
      {state === 'trouble' ? (
        <rect x="4" y="4" width="12" height="12" fill="currentColor" />
      ) : (
        <circle
          cx="10"
          cy="10"
          r="5.5"
          fill={state === 'automatic' ? 'var(--paper)' : 'currentColor'}
          stroke="currentColor"
          strokeWidth="2"
        />
      )}
    </svg>
  );
}
