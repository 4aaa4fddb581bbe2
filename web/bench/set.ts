import {
  type Chain,
  type ClipOrder,
  type ClipSettings,
  checkSet,
  type Finding,
  InputError,
  settle,
  soundBytesOf,
  stemsOf,
  type Target,
} from '@tambur/core';
import type { ClipView, SourceView } from '@tambur/server';

/** A clip whose chain is settled, or why it cannot be. */
export type SettledClip = { readonly chain: Chain } | { readonly refused: string };

/** What is known of the whole set without rendering it. */
export interface SettledSet {
  /** By clip, of those whose source is there. */
  readonly settled: ReadonlyMap<string, SettledClip>;
  /** One sentence for each clip that will not meet the sheet. */
  readonly troubles: ReadonlyMap<string, string>;
  /** Seconds of each result. */
  readonly seconds: ReadonlyMap<string, number>;
  readonly soundBytes: number;
  /** The budget, where the sheet has one. */
  readonly mostBytes: number | null;
  readonly findings: readonly Finding[];
}

/** Settings are never changed but replaced, so what was settled of them stays true while all else is the same. */
const known = new WeakMap<ClipSettings, { readonly order: ClipOrder; readonly outcome: SettledClip }>();

function settleOnce(order: ClipOrder): SettledClip {
  const last = known.get(order.settings);
  const isSame =
    last?.order.facts === order.facts && last.order.target === order.target && last.order.stem === order.stem;
  if (last && isSame) return last.outcome;
  const outcome = settleOrRefuse(order);
  known.set(order.settings, { order, outcome });
  return outcome;
}

function settleOrRefuse(order: ClipOrder): SettledClip {
  try {
    return { chain: settle(order) };
  } catch (error) {
    if (error instanceof InputError) return { refused: error.message };
    throw error;
  }
}

export function settleSet(
  clips: readonly ClipView[],
  sources: ReadonlyMap<string, SourceView>,
  target: Target,
): SettledSet {
  const stems = stemsOf(
    clips.map(({ settings }) => settings.name),
    target,
  );
  const settled = new Map<string, SettledClip>();
  const troubles = new Map<string, string>();
  const seconds = new Map<string, number>();
  const sizes: number[] = [];
  for (const [index, { id, sourceId, settings }] of clips.entries()) {
    const source = sources.get(sourceId);
    if (!source) continue;
    const clip = settleOnce({ facts: source.facts, settings, target, stem: stems[index] ?? 'clip' });
    settled.set(id, clip);
    if ('refused' in clip) {
      troubles.set(id, clip.refused);
      continue;
    }
    const { stations, obstacles } = clip.chain;
    sizes.push(soundBytesOf(clip.chain));
    seconds.set(id, stations.ends.plan.frames / stations.rate.plan.to);
    if (obstacles[0]) troubles.set(id, obstacles[0].text);
  }
  const budget = target.requirements.find((requirement) => requirement.kind === 'set-size');
  return {
    settled,
    troubles,
    seconds,
    soundBytes: sizes.reduce((sum, size) => sum + size, 0),
    mostBytes: budget?.kind === 'set-size' ? budget.most : null,
    findings: checkSet(target, { members: sizes.map((bytes) => ({ bytes, soundBytes: bytes })), others: [] }),
  };
}
