import { encodingTitle, type Facts } from '../facts/index.ts';
import { clamp, framesAtRate, toDb } from '../numbers/index.ts';
import type { Chain } from './chain.ts';
import type { LevelGoal } from './stations/level.ts';

/** A piece of a clip, which is made alike but for what only the whole decides. */
export interface Piece {
  readonly chain: Chain;
  /** What may come out differently in the whole, in words; empty where nothing does. */
  readonly provisional: readonly string[];
}

/**
 * The chain of a piece of a clip: everything as in the whole, but no rule of length, no silence added or taken, no fades,
 * and the gain that the source's own levels come to.
 * @param range frames of the source, within the cut
 */
export function pieceOf(chain: Chain, range: { readonly start: number; readonly end: number }): Piece {
  const { order, stations } = chain;
  const { cut, rate, level, ends, depth, wrap } = stations;
  const incoming = framesAtRate(range.end - range.start, rate.plan.from, rate.plan.exact);
  const { goal, removeDc } = level.plan;
  const none = { frames: 0, atLeast: false };
  const rule = ends.plan.rule.kind === 'blocks' ? ends.plan.rule : { multipleOf: 1 };
  const plan = {
    ...ends.plan,
    incoming,
    frames: incoming,
    isOpen: false,
    trim: null,
    loop: null,
    fadeIn: { ...ends.plan.fadeIn, frames: 0 },
    fadeOut: { ...ends.plan.fadeOut, frames: 0 },
    front: none,
    back: none,
    // A part of a block that is left over is filled up, so that no sound is missing at the end of a piece.
    rule: { kind: 'blocks', multipleOf: rule.multipleOf, least: 1, by: 'pad' } as const,
    limit: null,
  };
  const isStretched = ends.plan.rule.kind === 'exact' && ends.plan.rule.by === 'stretch';
  const { trim, loop, fadeIn, fadeOut } = ends.plan;
  return {
    chain: {
      ...chain,
      obstacles: [],
      stations: {
        ...stations,
        cut: { ...cut, plan: range },
        level: { ...level, plan: { ...level.plan, goal: likelyGain(goal, order.facts) } },
        ends: { ...ends, plan },
      },
    },
    provisional: [
      ...(goal.kind === 'gain' && !removeDc ? [] : ['the level']),
      ...(trim || loop || isStretched ? ['where it begins and ends'] : []),
      ...(fadeIn.frames || fadeOut.frames ? ['fades'] : []),
      ...(depth.plan.dither === 'shaped' ? ['the shaped noise'] : []),
      // What is lossless has a depth.
      ...(wrap.plan.compressed && depth.plan.bits === null
        ? [`what ${encodingTitle(wrap.plan.encoding)} loses, near the ends of a piece`]
        : []),
    ],
  };
}

/** The gain that a goal comes to, as far as the source's own levels tell. */
function likelyGain(goal: LevelGoal, { levels, measures }: Facts): LevelGoal {
  if (goal.kind === 'gain') return goal;
  const peakDb = toDb(Math.max(...levels.peak));
  const wanted =
    goal.kind === 'loudness'
      ? Math.min(
          goal.lufs - (measures.loudness ?? goal.lufs),
          goal.ceilingDb === null ? Number.POSITIVE_INFINITY : goal.ceilingDb - toDb(measures.truePeak),
        )
      : goal.db - (goal.kind === 'true-peak' ? toDb(measures.truePeak) : peakDb);
  return { kind: 'gain', gainDb: Number.isFinite(wanted) ? clamp(wanted, -120, goal.mostGainDb) : 0 };
}
