import { clamp } from '@tambur/core';
import { useRef } from 'react';
import { useStore } from 'zustand';
import { LANE_HEIGHTS, looks } from './looks.ts';

/** Both lanes together, in heights of the source's. */
const BOTH = 1.85;
const KEY_STEP = 8;

const setHeight = (pixels: number) =>
  looks.setState({ laneHeight: Math.round(clamp(pixels, LANE_HEIGHTS.least, LANE_HEIGHTS.most)) });

/** Between the lanes and an open station: dragged, or moved by the arrow keys, it makes the lanes higher or lower. */
export function LaneDivider() {
  const height = useStore(looks, ({ laneHeight }) => laneHeight);
  const grip = useRef<{ readonly y: number; readonly height: number } | null>(null);
  return (
    // biome-ignore lint/a11y/useSemanticElements: a rule cannot be moved
    <div
      role="separator"
      aria-orientation="horizontal"
      aria-label="Height of the lanes"
      aria-valuenow={height}
      aria-valuemin={LANE_HEIGHTS.least}
      aria-valuemax={LANE_HEIGHTS.most}
      tabIndex={0}
      title="Drag: more room for the lanes, or for the station; a double click goes back"
      className="hidden h-2 shrink-0 cursor-row-resize touch-none border-t-2 border-pine bg-sheet hover:bg-pine-tint focus-visible:bg-pine-tint lg:block wide:hidden"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        grip.current = { y: event.clientY, height };
      }}
      onPointerMove={({ clientY }) =>
        grip.current && setHeight(grip.current.height + (clientY - grip.current.y) / BOTH)
      }
      onLostPointerCapture={() => {
        grip.current = null;
      }}
      onDoubleClick={() => setHeight(LANE_HEIGHTS.usual)}
      onKeyDown={(event) => {
        const step = { ArrowUp: -KEY_STEP, ArrowDown: KEY_STEP }[event.key];
        if (step === undefined) return;
        event.preventDefault();
        setHeight(height + step);
      }}
    />
  );
}
