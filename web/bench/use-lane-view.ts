import { clamp } from '@tambur/core';
import {
  type Dispatch,
  type PointerEvent,
  type RefObject,
  type SetStateAction,
  useEffect,
  useRef,
  useState,
} from 'react';
import type { Cut } from '../sound/cut.ts';
import { moved, pinched, type View, viewOfRange, wheelFactor, zoomed } from '../sound/view.ts';
import { useAct } from '../ui/acts.ts';
import { KEYS } from './keys.ts';

/** By how much a press of a key, or a click, zooms. */
const STEP = 2;
/** Pixels that a pointer may move in a press that is a click and no drag. */
const STILL = 4;

interface Options {
  readonly view: View;
  readonly setView: Dispatch<SetStateAction<View>>;
  /** Of the sound that the view is of. */
  readonly frames: number;
  readonly onSeek: (frame: number) => void;
}

/** The keys that change what is seen, and buttons for the same. */
export function useViewKeys({
  view,
  setView,
  frames,
  cut,
}: Pick<Options, 'view' | 'setView' | 'frames'> & { readonly cut: Cut }) {
  const zoom = (factor: number, around: number) => setView((before) => zoomed(before, factor, around, frames));
  const scroll = (part: number) => setView((before) => moved(before, part * (before.to - before.from), frames));
  const zoomIn = () => zoom(1 / STEP, cut.start);
  const zoomOut = () => zoom(STEP, (view.from + view.to) / 2);
  const showCut = () => setView(viewOfRange(cut.start, cut.end, frames));
  const showAll = () => setView({ from: 0, to: frames });
  useAct(KEYS.zoomIn, zoomIn);
  useAct(KEYS.zoomOut, zoomOut);
  useAct(KEYS.showAll, showAll);
  useAct(KEYS.showCut, showCut);
  useAct(KEYS.left, () => scroll(-0.25));
  useAct(KEYS.right, () => scroll(0.25));
  return { zoomIn, zoomOut, showCut, showAll };
}

/** All that a pointer does in a lane: the wheel, two fingers, a drag across the lane, a click. */
export function useLaneView(lane: RefObject<HTMLElement | null>, { view, setView, frames, onSeek }: Options) {
  /** The range that is being drawn up, in frames. */
  const [selection, setSelection] = useState<readonly [number, number] | null>(null);
  /** Each finger, or the mouse: where it went down, and the frame that it holds. */
  const pointers = useRef(new Map<number, { readonly downX: number; readonly frame: number; x: number }>());
  /** Once there were two fingers, the last one neither selects nor seeks. */
  const isPinch = useRef(false);

  const placeOf = (clientX: number) => {
    const box = lane.current?.getBoundingClientRect();
    return box ? clamp((clientX - box.left) / box.width, 0, 1) : 0;
  };
  const frameAt = ({ clientX }: { clientX: number }) =>
    Math.round(view.from + placeOf(clientX) * (view.to - view.from));

  // The wheel zooms, also as two fingers on a pad do, which comes with Ctrl; with Shift, or sideways, it moves.
  useEffect(() => {
    const element = lane.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const sideways = event.shiftKey ? event.deltaY : event.deltaX;
      const isSideways = Math.abs(sideways) > Math.abs(event.shiftKey ? 0 : event.deltaY);
      const { left, width } = element.getBoundingClientRect();
      setView((before) => {
        const span = before.to - before.from;
        if (isSideways) return moved(before, (sideways / width) * span, frames);
        const around = before.from + ((event.clientX - left) / width) * span;
        return zoomed(before, wheelFactor(event), around, frames);
      });
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [lane, frames, setView]);

  const handlers = {
    onPointerDown(event: PointerEvent<HTMLElement>) {
      if (event.button !== 0) return;
      if (event.target instanceof HTMLElement && event.target.closest('[role=slider]')) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      const { clientX } = event;
      pointers.current.set(event.pointerId, { downX: clientX, frame: frameAt(event), x: clientX });
      isPinch.current = pointers.current.size > 1;
      setSelection(null);
    },
    onPointerMove(event: PointerEvent<HTMLElement>) {
      const held = pointers.current.get(event.pointerId);
      if (!held) return;
      held.x = event.clientX;
      const [first, second] = pointers.current.values();
      if (first && second) {
        setView(pinched([first.frame, second.frame], [placeOf(first.x), placeOf(second.x)], frames));
      } else if (isPinch.current) {
        return;
      } else if (Math.abs(event.clientX - held.downX) > STILL || selection) {
        setSelection([held.frame, frameAt(event)]);
      }
    },
    onPointerUp(event: PointerEvent<HTMLElement>) {
      const held = pointers.current.get(event.pointerId);
      if (!held || isPinch.current) return;
      if (selection) setView(viewOfRange(Math.min(...selection), Math.max(...selection), frames, 0));
      else onSeek(Math.min(frames - 1, held.frame));
    },
    onLostPointerCapture(event: PointerEvent<HTMLElement>) {
      pointers.current.delete(event.pointerId);
      setSelection(null);
    },
  };
  return { selection, frameAt, handlers };
}
