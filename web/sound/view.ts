import { clamp, formatCount, formatSeconds } from '@tambur/core';

/** Frames of a sound that a lane shows. */
export interface View {
  readonly from: number;
  readonly to: number;
}

/** Closest view, in frames. */
const CLOSEST = 8;

/** Of a cut that is shown, so much on either side. */
const MARGIN = 0.1;

/** A view of so many frames within the sound, as near to `from` as that goes. */
function within(from: number, length: number, frames: number): View {
  const shown = clamp(length, Math.min(CLOSEST, frames), frames);
  const start = clamp(from, 0, frames - shown);
  return { from: start, to: start + shown };
}

/** Seen from nearer (a factor below 1) or farther; the frame `around` stays where it is on the screen. */
export function zoomed({ from, to }: View, factor: number, around: number, frames: number): View {
  const length = clamp((to - from) * factor, Math.min(CLOSEST, frames), frames);
  return within(around - ((around - from) / (to - from)) * length, length, frames);
}

/** Pixels of a notch of a wheel, and by how much it zooms. */
const NOTCH = 100;
const BY_NOTCH = 1.25;
/** Two fingers on a pad give small steps, which come with Ctrl; other devices count in lines. */
const OF_FINGERS = 5;
const LINE = 33;

/** By how much a turn of the wheel zooms: as far as it was turned, a notch at most four times. */
export function wheelFactor({
  deltaY,
  deltaMode,
  ctrlKey,
}: Pick<WheelEvent, 'deltaY' | 'deltaMode' | 'ctrlKey'>): number {
  const notches = (deltaY * (deltaMode === 0 ? 1 : LINE) * (ctrlKey ? OF_FINGERS : 1)) / NOTCH;
  return BY_NOTCH ** clamp(notches, -4, 4);
}

/** The same length, so many frames later. */
export const moved = ({ from, to }: View, by: number, frames: number): View => within(from + by, to - from, frames);

/** A range as large as it goes, with a little of what is beside it. */
export function viewOfRange(start: number, end: number, frames: number, margin = MARGIN): View {
  const beside = (end - start) * margin;
  return within(start - beside, end - start + 2 * beside, frames);
}

/** Two fingers that were on two frames and are now at two places, 0..1 of the lane: the view in which they still are. */
export function pinched(held: readonly [number, number], places: readonly [number, number], frames: number): View {
  const apart = places[1] - places[0];
  if (Math.abs(apart) < 0.01) return within(held[0], Math.abs(held[1] - held[0]) / 0.01, frames);
  const length = Math.abs((held[1] - held[0]) / apart);
  return within(held[0] - places[0] * length, length, frames);
}

/** A mark of the ruler; those without words stand between the others. */
export interface Tick {
  readonly frame: number;
  readonly words: string | null;
}

/** Pixels between two marks with words, at least. */
const APART = 76;

/** How many parts lie between two marks with words, by the first digit of their distance. */
const PARTS = [
  { times: 1, parts: 5 },
  { times: 2, parts: 4 },
  { times: 5, parts: 5 },
] as const;

/** The steps of clocks beyond ten seconds. */
const CLOCK = [
  { seconds: 15, parts: 3 },
  { seconds: 30, parts: 3 },
  { seconds: 60, parts: 4 },
  { seconds: 120, parts: 4 },
  { seconds: 300, parts: 5 },
  { seconds: 600, parts: 5 },
  { seconds: 1800, parts: 3 },
  { seconds: 3600, parts: 4 },
] as const;

/** Marks at whole steps of time; so near that a step is no whole number of frames, at whole frames. */
export function ticksOf({ from, to }: View, sampleRate: number, width: number): readonly Tick[] {
  const least = ((to - from) / Math.max(1, width)) * APART;
  const { step, parts, isTime } = stepOf(least, sampleRate);
  const small = step / parts;
  const ticks: Tick[] = [];
  for (let i = Math.ceil(from / small); i * small <= to; i++) {
    const frame = i * small;
    const words = isTime ? timeWords(frame / sampleRate, step / sampleRate) : formatCount(frame);
    ticks.push({ frame, words: i % parts === 0 ? words : null });
  }
  return ticks;
}

/** Bars of a sound: the frame at which the first begins, and how long one is. */
export interface Bars {
  readonly from: number;
  readonly bar: number;
  readonly beats: number;
}

/** Marks at bars, counted from one, with their beats between them; null if it is too near for that: then times say more. */
export function barTicksOf(
  { from, to }: View,
  { from: first, bar, beats }: Bars,
  width: number,
): readonly Tick[] | null {
  const perPixel = (to - from) / Math.max(1, width);
  if (to - from < bar / beats) return null;
  // As many bars from one number to the next as it takes: 1, 2, 4, 8 …
  const step = 2 ** Math.max(0, Math.ceil(Math.log2((APART * perPixel) / bar)));
  const parts = step === 1 ? beats : step;
  const small = (step * bar) / parts;
  const ticks: Tick[] = [];
  for (let i = Math.max(0, Math.ceil((from - first) / small)); first + i * small <= to; i++) {
    ticks.push({ frame: first + i * small, words: i % parts === 0 ? `bar ${(i / parts) * step + 1}` : null });
  }
  return ticks;
}

/** The smallest sensible step of at least so many frames. */
function stepOf(least: number, sampleRate: number) {
  const seconds = least / sampleRate;
  const clock = CLOCK.find((entry) => entry.seconds >= seconds);
  if (seconds > 10) {
    const { seconds: step, parts } = clock ?? { seconds: 3600 * Math.ceil(seconds / 3600), parts: 4 };
    return { step: step * sampleRate, parts, isTime: true };
  }
  // From a thousandth of a second on times are read, below that frames are counted.
  const isTime = seconds > 0.0005;
  const unit = isTime ? seconds : Math.max(1, least);
  for (let power = 10 ** Math.floor(Math.log10(unit)); ; power *= 10) {
    for (const { times, parts } of PARTS) {
      if (times * power < unit * (1 - 1e-9)) continue;
      if (isTime) return { step: times * power * sampleRate, parts, isTime };
      const step = Math.round(times * power);
      return { step, parts: step % parts === 0 ? parts : 1, isTime };
    }
  }
}

/** "4 s", "0.25 s", "1:30": as many decimals as the step has. */
function timeWords(seconds: number, step: number): string {
  if (step < 1) {
    const decimals = Math.max(0, Math.ceil(-Math.log10(step) - 1e-9));
    return `${seconds.toFixed(decimals)} s`;
  }
  return seconds < 60 && step < 15 ? `${Math.round(seconds)} s` : formatSeconds(seconds).replace(/\.000( s)?$/, '$1');
}
