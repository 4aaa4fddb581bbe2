import type * as v from 'valibot';
import type { Facts } from '../facts/index.ts';
import type { SettledDemands } from '../targets/index.ts';

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

/** Sound passing through a station block by block. */
export interface BlockProcess {
  push(channels: readonly Float32Array[]): readonly Float32Array[];
  /** Ends the input; what was still held back. */
  finish(): readonly Float32Array[];
}

/** What was measured on the way through the chain. */
export interface RenderReport {
  /** Largest magnitude that came from Rate, linear. */
  peakBefore: number;
  /** What Level added, in dB; 0 for digital silence. */
  gainDb: number;
  /** How much more would reach full scale, in dB; negative where it flattens; null for digital silence. */
  headroomDb: number | null;
  /** Frames that exceeded full scale and were flattened. */
  clippedFrames: number;
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
  /** For stations that work block by block on the way to the delivered rate. */
  blocks?(plan: Plan): BlockProcess;
  /** For stations that need the whole sound at the delivered rate; they may change it in place and add to the report. */
  whole?(plan: Plan, channels: readonly Float32Array[], report: RenderReport): readonly Float32Array[];
}

/** "Wanted by the sheet: 8 000 Hz." and the like, so that reasons read alike. */
export const bySheet = (what: string): string => `The sheet wants ${what}.`;
export const BY_HAND = 'Set by hand.';
