import type * as v from 'valibot';
import type { Facts } from '../facts/index.ts';
import type { SettledDemands } from '../targets/index.ts';
import type { Step } from './passage.ts';
import type { RenderReport } from './report.ts';

/** A station after fit: what it will do and why. */
export interface SettledStation<Plan> {
  readonly plan: Plan;
  /** True if the user set it; otherwise it was settled from the sheet and the source. */
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

/** Rate and channels of the sound at one place in the line. */
export interface Format {
  /** Hz. */
  readonly sampleRate: number;
  readonly channels: number;
}

/** What a station could be set to instead. */
export interface AlternativeWish {
  readonly label: string;
  /** Entries of the station's wish. */
  readonly wish: object;
  /** True if it takes the place of all that is set by hand there. */
  readonly isAlone?: boolean;
}

/** A piece of a clip: frames of the source, within the cut, and what the source is. */
export interface Piece {
  readonly start: number;
  readonly end: number;
  readonly facts: Facts;
}

/** What a station does in a piece, and what of it may come out differently in the whole, in words. */
export interface InPiece<Plan> {
  readonly plan: Plan;
  readonly provisional: readonly string[];
}

/** What a station says once its work is done. */
export interface Outcome {
  /** Its value in figures, as short as it goes. */
  readonly figure: string;
  readonly isTrouble: boolean;
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
  /** @throws InputError if the wish cannot be carried out */
  settle(context: Context, wish: Wish | undefined, before: PlansOf<Needs>): SettledStation<Plan>;
  /** Says what stands in the way, one sentence each. */
  obstacles?(context: Context, plan: Plan, before: PlansOf<Needs>): readonly string[];
  /** What the station does to the sound, if anything, which comes to it in this format. */
  steps?(plan: Plan, format: Format): readonly Step[];
  /** The format in which the sound leaves it; left out if that is the one in which it came. */
  formatAfter?(plan: Plan, format: Format): Format;
  /** Where a frame of the sound that leaves it stood in the sound that came; left out if that is the same place. */
  cameFrom?(frame: number, plan: Plan, report: RenderReport): number;
  /** What could be done instead, best known first, for a result of this format; left out if there is nothing to compare. */
  alternatives?(plan: Plan, context: Context, before: PlansOf<Needs>, result: Format): readonly AlternativeWish[];
  /** What it does in a piece, where that is not what it does in the whole. */
  inPiece?(plan: Plan, piece: Piece, before: PlansOf<Needs>): InPiece<Plan>;
  /** False if a sheet asks for something else than a plan that was settled by hand: another device does not keep it. */
  isAskedFor?(plan: Plan, demands: SettledDemands): boolean;
  /** What came out of it; left out if the plan says it all. */
  outcome?(report: RenderReport): Outcome;
}

/** Stations as the line has them settled. */
type Own<Id extends string, Plan> = { readonly [Own in Id]: SettledStation<Plan> };

/** One step of the chain, as the line sees it: it picks what is its own out of what there is of all stations. */
export interface Station<Id extends string, Wish, Plan, Needs> extends Description<Id, Wish, Plan, Needs> {
  /** @throws InputError if what is set by hand cannot be carried out */
  settleIn(
    context: Context,
    settings: { readonly [Own in Id]: 'automatic' | Wish },
    plans: PlansOf<Needs>,
  ): SettledStation<Plan>;
  obstaclesIn(context: Context, plans: PlansOf<Needs> & { readonly [Own in Id]: Plan }): readonly string[];
  stepsIn(settled: Own<Id, Plan>, format: Format): readonly Step[];
  formatIn(settled: Own<Id, Plan>, format: Format): Format;
  placeIn(settled: Own<Id, Plan>, frame: number, report: RenderReport): number;
  alternativesIn(
    settled: Own<Id, Plan>,
    context: Context,
    plans: PlansOf<Needs>,
    result: Format,
  ): readonly AlternativeWish[];
  pieceIn(settled: Own<Id, Plan>, piece: Piece, plans: PlansOf<Needs>): InPiece<Plan>;
  isAskedForIn(settled: Own<Id, Plan>, demands: SettledDemands): boolean;
}

/** Makes a station of its description; the plans that it is given follow from what it says it needs. */
export function station<const Id extends string, Wish, Plan, Needs>(
  own: Description<Id, Wish, Plan, Needs>,
): Station<Id, Wish, Plan, Needs> {
  const { id } = own;
  return {
    ...own,
    settleIn(context, settings, plans) {
      const wish: 'automatic' | Wish = settings[id];
      return own.settle(context, wish === 'automatic' ? undefined : wish, plans);
    },
    obstaclesIn: (context, plans) => own.obstacles?.(context, plans[id], plans) ?? [],
    stepsIn: (settled, format) => own.steps?.(settled[id].plan, format) ?? [],
    formatIn: (settled, format) => own.formatAfter?.(settled[id].plan, format) ?? format,
    placeIn: (settled, frame, report) => own.cameFrom?.(frame, settled[id].plan, report) ?? frame,
    alternativesIn: (settled, context, plans, result) =>
      own.alternatives?.(settled[id].plan, context, plans, result) ?? [],
    pieceIn: (settled, piece, plans) =>
      own.inPiece?.(settled[id].plan, piece, plans) ?? { plan: settled[id].plan, provisional: [] },
    isAskedForIn: (settled, demands) => own.isAskedFor?.(settled[id].plan, demands) ?? true,
  };
}

/** True if a sheet asks for nothing, or for such a value among others. */
export const isAmong = <T>(allowed: { readonly value: readonly T[] } | undefined, value: T): boolean =>
  allowed === undefined || allowed.value.includes(value);

/** "Wanted by the sheet: 8 000 Hz." and the like, so that reasons read alike. */
export const bySheet = (what: string): string => `The sheet wants ${what}.`;
export const BY_HAND = 'Set by hand.';
