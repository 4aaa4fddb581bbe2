import type * as v from 'valibot';
import type { Facts } from '../facts/index.ts';
import type { SettledDemands } from '../targets/index.ts';
import type { Step } from './passage.ts';

/** A station after fit: what it will do and why. */
export interface SettledStation<Plan> {
  readonly plan: Plan;
  /** True where the user set it; otherwise it was settled from the sheet and the source. */
  readonly byHand: boolean;
  /** Its value in figures, as short as it goes: "16 000 Hz". */
  readonly figure: string;
  /** One sentence: why the value is what it is. */
  readonly why: string;
}

/** A way out of an obstacle: settings of one station that remove it. */
export interface Way {
  readonly label: string;
  readonly station: string;
  readonly wish: unknown;
}

/** What keeps the result from meeting the sheet. */
export interface Obstacle {
  readonly station: string;
  readonly text: string;
  /** Best first. */
  readonly ways: readonly Way[];
}

/** What a station may look at. */
export interface Context {
  /** Of the source. */
  readonly facts: Facts;
  readonly demands: SettledDemands;
}

/** What was measured on the way through the chain. */
export interface RenderReport {
  /** Frames of the result. */
  frames: number;
  /** Largest magnitude that came to the gain, linear: behind Rate and the filters of Level. */
  peakBefore: number;
  /** What Level added, in dB; 0 for digital silence. */
  gainDb: number;
  /** How much more would reach full scale, in dB; negative where it flattens; null for digital silence. */
  headroomDb: number | null;
  /** Frames that the limiter made quieter by more than 0.1 dB, and by how much at most, in dB; null where it is off. */
  limited: { readonly frames: number; readonly mostDb: number } | null;
  /** Frames of silence that Ends took off; null where it was not to. */
  trimmed: { readonly front: number; readonly back: number } | null;
  /** The loop that Ends found; null where it was not to. */
  loop: LoopReport | null;
  /** Frames that exceeded full scale and were flattened. */
  clippedFrames: number;
  /** The sound's power over that of the error of Depth and of the encoding, in dB; null where there is none of either. */
  signalToNoiseDb: number | null;
  /** Part of all levels between the lowest and the highest that was used, 0..1; null where there are no levels. */
  rangeUsed: number | null;
}

export interface LoopReport {
  /** Frames left away in front and behind. */
  readonly front: number;
  readonly back: number;
  /** How alike the sound is around both ends, -1..1. */
  readonly likeness: number;
  /** From the last frame to the first, linear. */
  readonly step: number;
  /** The largest step between neighbouring frames nearby, linear. */
  readonly usualStep: number;
}

/** The sound as it leaves Rate and everything behind it. */
export interface Format {
  /** Hz. */
  readonly sampleRate: number;
  readonly channels: number;
}

/**
 * One step of the chain.
 * @typeParam Wish what a user may set by hand
 * @typeParam Plan what the station will do, all choices made
 * @typeParam Before the plans of other stations that it builds on
 */
export interface Station<Wish, Plan, Before = unknown> {
  readonly title: string;
  readonly wish: v.GenericSchema<Wish>;
  /** Stations whose plans `settle` looks at. */
  readonly needs: readonly string[];
  /** @throws InputError where the wish cannot be carried out */
  settle(context: Context, wish: Wish | undefined, before: Before): SettledStation<Plan>;
  /** Says what stands in the way. */
  obstacles?(context: Context, plan: Plan, before: Before): Obstacle[];
  /** What the station does to the sound, if anything; adds to the report what it measures. */
  steps?(plan: Plan, format: Format, report: RenderReport): readonly Step[];
}

/** "Wanted by the sheet: 8 000 Hz." and the like, so that reasons read alike. */
export const bySheet = (what: string): string => `The sheet wants ${what}.`;
export const BY_HAND = 'Set by hand.';
