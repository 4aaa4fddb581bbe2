/** A timer of a processor: its clock, what divides it, and how far it counts. */
export interface Timer {
  /** Hz. */
  readonly clock: number;
  readonly prescalers: readonly number[];
  readonly counterBits: number;
}

/** What such a timer is described by, and the rates that are asked of it in Hz. */
export const TIMER_RANGES = {
  clock: { least: 1, most: 1_000_000_000 },
  prescaler: { least: 1, most: 65_536 },
  counterBits: { least: 4, most: 24 },
  wanted: { least: 100, most: 200_000 },
} as const;

/** A rate that a timer makes. */
export interface TimerRate {
  readonly prescaler: number;
  /** The counter runs from 0 to this. */
  readonly top: number;
  /** The exact rate as a fraction, "16000000/1000". */
  readonly exact: string;
  readonly hz: number;
}

/** Ratio of two rates in cents of a semitone: 1200 log2(a / b). That is how far the pitch is off. */
export const centsBetween = (a: number, b: number): number => 1200 * Math.log2(a / b);

/** Ratio of two rates in parts per million. */
export const partsPerMillion = (a: number, b: number): number => (a / b - 1) * 1e6;

/**
 * The rates that a timer can make near `wanted`, the nearest first: clock / (prescaler x (top + 1)), top from 1 to the
 * counter's end. Of those that are equal, the one with the smallest prescaler stands for all: its counter is finest.
 */
export function timerRates({ clock, prescalers, counterBits }: Timer, wanted: number, count = 8): TimerRate[] {
  const most = 2 ** counterBits;
  const rates = new Map<number, TimerRate>();
  for (const prescaler of [...prescalers].sort((a, b) => a - b)) {
    const steps = clock / (prescaler * wanted);
    for (const divisor of [Math.floor(steps) - 1, Math.floor(steps), Math.ceil(steps), Math.ceil(steps) + 1]) {
      if (divisor < 2 || divisor > most) continue;
      const by = prescaler * divisor;
      if (!rates.has(by)) rates.set(by, { prescaler, top: divisor - 1, exact: `${clock}/${by}`, hz: clock / by });
    }
  }
  const off = ({ hz }: TimerRate) => Math.abs(Math.log(hz / wanted));
  return [...rates.values()].sort((a, b) => off(a) - off(b)).slice(0, count);
}
