import { useCallback } from 'react';
import { colour } from '../ui/theme.ts';
import { Canvas } from './canvas.tsx';
import { type Bars, barTicksOf, ticksOf, type View } from './view.ts';

const FONT = '11px "Spline Sans Mono Variable", "Archivo Variable", monospace';

/** Pixels between words, at least. */
const GAP = 6;

interface Props {
  readonly view: View;
  readonly sampleRate: number;
  /** Of the sound, beyond whose ends there are no times. */
  readonly frames: number;
  /** Counted instead of seconds, where there are any. */
  readonly bars?: Bars | null;
}

/** Times below a lane, or frames where it is seen from near, or bars. */
export function Ruler({ view, sampleRate, frames, bars = null }: Props) {
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) => {
      context.clearRect(0, 0, width, height);
      context.font = FONT;
      context.textBaseline = 'bottom';
      let taken = 0;
      for (const { frame, words } of (bars && barTicksOf(view, bars, width)) ?? ticksOf(view, sampleRate, width)) {
        if (frame < 0 || frame > frames) continue;
        const x = ((frame - view.from) / (view.to - view.from)) * width;
        context.fillStyle = colour('rule');
        context.fillRect(Math.min(width - 1, x), 0, 1, words === null ? 3 : 6);
        if (words === null) continue;
        const wide = context.measureText(words).width;
        // At the ends the words stay on the ruler, and are left out if others stand.
        const left = Math.max(0, Math.min(width - wide, x - wide / 2));
        if (left < taken) continue;
        taken = left + wide + GAP;
        context.fillStyle = colour('graphite');
        context.fillText(words, left, height);
      }
    },
    [view, sampleRate, frames, bars],
  );
  return (
    <div aria-hidden>
      <Canvas label="" className="block h-4.5 w-full" draw={draw} />
    </div>
  );
}
