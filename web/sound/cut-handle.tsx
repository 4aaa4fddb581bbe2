import { clamp, formatCount, formatSeconds } from '@tambur/core';
import { type PointerEvent, useEffect, useRef } from 'react';
import { notifyFailure } from '../ui/notify.tsx';

interface HandleProps {
  readonly edge: 'start' | 'end';
  readonly cut: { readonly start: number; readonly end: number };
  readonly frames: number;
  readonly sampleRate: number;
  readonly left: number;
  readonly frameAt: (event: { clientX: number }) => number;
  readonly onCut: (start: number, end: number) => void;
  readonly onGesture: () => () => void;
  /** Where a drag to a frame takes it. */
  readonly onSnap?: (edge: 'start' | 'end', frame: number) => number;
  /** What is still done of a drag when it is let go of. */
  readonly onRelease?: (edge: 'start' | 'end') => Promise<void>;
  /** Told when it is taken, by hand or by key, and when it is left. */
  readonly onHeld?: (isHeld: boolean) => void;
}

/** Seconds that one press of an arrow key moves a handle; with Shift; with Alt it is one frame. */
const STEP = 0.01;
const LONG_STEP = 0.1;

/** One end of the cut: dragged, or moved with the arrow keys. */
export function Handle({
  edge,
  cut,
  frames,
  sampleRate,
  left,
  frameAt,
  onCut,
  onGesture,
  onSnap,
  onRelease,
  onHeld,
}: HandleProps) {
  const endGesture = useRef<(() => void) | null>(null);
  const least = edge === 'start' ? 0 : cut.start + 1;
  const most = edge === 'start' ? cut.end - 1 : frames;
  const move = (frame: number) => {
    const taken = clamp(Math.round(frame), least, most);
    if (taken === cut[edge]) return;
    if (edge === 'start') onCut(taken, cut.end);
    else onCut(cut.start, taken);
  };
  const drop = async () => {
    const end = endGesture.current;
    endGesture.current = null;
    try {
      await onRelease?.(edge);
    } catch (error) {
      // The end stays where it was let go of.
      notifyFailure(error);
    } finally {
      end?.();
    }
  };
  // A handle that leaves the screen in the middle of a drag has been let go of.
  useEffect(() => () => endGesture.current?.(), []);
  const label = edge === 'start' ? 'Start of the cut' : 'End of the cut';

  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={least}
      aria-valuemax={most}
      aria-valuenow={cut[edge]}
      aria-valuetext={`${formatSeconds(cut[edge] / sampleRate)}, ${formatCount(cut[edge])} frames`}
      title={`${label}: drag, or use the arrow keys (Shift: longer, Alt: one frame)`}
      className="absolute inset-y-0 z-10 -ml-3 w-6 cursor-ew-resize touch-none outline-none before:absolute before:inset-y-0 before:left-3 before:w-0.5 before:bg-pine focus-visible:before:w-1"
      style={{ left: `${left}%` }}
      onFocus={() => onHeld?.(true)}
      onBlur={() => onHeld?.(false)}
      onPointerDown={(event: PointerEvent<HTMLDivElement>) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        event.currentTarget.focus();
        endGesture.current = onGesture();
      }}
      onPointerMove={(event) => endGesture.current && move(onSnap ? onSnap(edge, frameAt(event)) : frameAt(event))}
      onLostPointerCapture={() => void drop()}
      onKeyDown={(event) => {
        const step = event.altKey ? 1 : Math.round((event.shiftKey ? LONG_STEP : STEP) * sampleRate);
        const to = {
          ArrowLeft: cut[edge] - step,
          ArrowDown: cut[edge] - step,
          ArrowRight: cut[edge] + step,
          ArrowUp: cut[edge] + step,
          Home: least,
          End: most,
        }[event.key];
        if (to === undefined) return;
        event.preventDefault();
        move(to);
      }}
    >
      <span
        aria-hidden
        className={`absolute top-0 flex h-5 w-3 items-center justify-center bg-pine text-[0.6rem] leading-none text-paper ${edge === 'start' ? 'left-3' : 'right-2.5'}`}
      >
        {edge === 'start' ? '▸' : '◂'}
      </span>
    </div>
  );
}

/** What is outside the cut. */
export function Shade({ from, to, percent }: { from: number; to: number; percent: (frame: number) => number }) {
  const left = Math.max(0, percent(from));
  const right = Math.min(100, percent(to));
  if (right <= left) return null;
  return (
    <div
      className="pointer-events-none absolute inset-y-0 bg-paper/65"
      style={{ left: `${left}%`, width: `${right - left}%` }}
    />
  );
}
