import { clamp } from '@tambur/core';

/** A range of a source, in frames; its end does not belong to it. */
export interface Cut {
  readonly start: number;
  readonly end: number;
}

/** A cut that starts at a frame; where that is behind its end, it goes to the end of the source. */
export const startAt = (frame: number, { end }: Cut, frames: number): [start: number, end: number] => {
  const start = clamp(frame, 0, frames - 1);
  return [start, start < end ? end : frames];
};

/** A cut that ends at a frame; where that is before its start, it begins with the source. */
export const endAt = (frame: number, { start }: Cut, frames: number): [start: number, end: number] => {
  const end = clamp(frame, 1, frames);
  return [end > start ? start : 0, end];
};

/** A cut with one end at a frame; it never becomes empty. */
export const withEdge = ({ start, end }: Cut, edge: keyof Cut, frame: number): Cut =>
  edge === 'start' ? { start: Math.min(frame, end - 1), end } : { start, end: Math.max(frame, start + 1) };
