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
  /** Title of its kind. */
  readonly kind: string;
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

/** The sound as it leaves Rate and everything after it. */
export interface Format {
  /** Hz. */
  readonly sampleRate: number;
  readonly channels: number;
}

/** Any station, as far as its plan goes. */
interface Settles<Plan> {
  settle(...args: never[]): SettledStation<Plan>;
}

/** The plans of some stations, by their ids. */
export type PlansOf<Stations> = {
  readonly [Id in keyof Stations]: Stations[Id] extends Settles<infer Plan> ? Plan : never;
};

/**
 * What is to be said of one step of the chain.
 * @typeParam Wish what a user may set by hand
 * @typeParam Plan what the station will do, all choices made
 * @typeParam Needs the stations whose plans it builds on, by their ids
 */
interface Description<Id extends string, Wish, Plan, Needs> {
  readonly id: Id;
  readonly title: string;
  readonly wish: v.GenericSchema<Wish>;
  /** They are settled first. */
  readonly needs: Needs;
  /** @throws InputError where the wish cannot be carried out */
  settle(context: Context, wish: Wish | undefined, before: PlansOf<Needs>): SettledStation<Plan>;
  /** Says what stands in the way, one sentence each. */
  obstacles?(context: Context, plan: Plan, before: PlansOf<Needs>): readonly string[];
  /** What the station does to the sound, if anything. */
  steps?(plan: Plan, format: Format): readonly Step[];
}

/** One step of the chain, as the line sees it: it picks what is its own out of what there is of all stations. */
export interface Station<Id extends string, Wish, Plan, Needs> extends Description<Id, Wish, Plan, Needs> {
  /** @throws InputError where what is set by hand cannot be carried out */
  settleIn(
    context: Context,
    settings: { readonly [Own in Id]: 'automatic' | Wish },
    plans: PlansOf<Needs>,
  ): SettledStation<Plan>;
  obstaclesIn(context: Context, plans: PlansOf<Needs> & { readonly [Own in Id]: Plan }): readonly string[];
  stepsIn(settled: { readonly [Own in Id]: SettledStation<Plan> }, format: Format): readonly Step[];
}

/** Makes a station of its description; the plans that it is given follow from what it says it needs. */
export function station<const Id extends string, Wish, Plan, Needs>(
  description: Description<Id, Wish, Plan, Needs>,
): Station<Id, Wish, Plan, Needs> {
  const { id } = description;
  return {
    ...description,
    settleIn(context, settings, plans) {
      const wish: 'automatic' | Wish = settings[id];
      return description.settle(context, wish === 'automatic' ? undefined : wish, plans);
    },
    obstaclesIn: (context, plans) => description.obstacles?.(context, plans[id], plans) ?? [],
    stepsIn: (settled, format) => description.steps?.(settled[id].plan, format) ?? [],
  };
}

/** "Wanted by the sheet: 8 000 Hz." and the like, so that reasons read alike. */
export const bySheet = (what: string): string => `The sheet wants ${what}.`;
export const BY_HAND = 'Set by hand.';
