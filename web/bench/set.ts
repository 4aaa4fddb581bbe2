import { checkSet, type Finding, fit, InputError, soundBytesOf, stemsOf, type Target } from '@tambur/core';
import type { ClipView, SourceView } from '@tambur/server';

/** What is known of the whole set without rendering it. */
export interface SettledSet {
  /** File names without extension, by clip. */
  readonly stems: ReadonlyMap<string, string>;
  /** One sentence for each clip that will not meet the sheet. */
  readonly troubles: ReadonlyMap<string, string>;
  /** Seconds of each result. */
  readonly seconds: ReadonlyMap<string, number>;
  readonly soundBytes: number;
  /** The budget, where the sheet has one. */
  readonly mostBytes: number | null;
  readonly findings: readonly Finding[];
}

export function settleSet(
  clips: readonly ClipView[],
  sources: ReadonlyMap<string, SourceView>,
  target: Target,
): SettledSet {
  const names = stemsOf(
    clips.map(({ settings }) => settings.name),
    target,
  );
  const troubles = new Map<string, string>();
  const seconds = new Map<string, number>();
  const sizes: number[] = [];
  for (const { id, sourceId, settings } of clips) {
    const source = sources.get(sourceId);
    if (!source) continue;
    try {
      const chain = fit(source.facts, settings, target);
      sizes.push(soundBytesOf(chain));
      seconds.set(id, chain.stations.ends.plan.frames / chain.stations.rate.plan.to);
      if (chain.obstacles[0]) troubles.set(id, chain.obstacles[0].text);
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      troubles.set(id, error.message);
    }
  }
  const budget = target.requirements.find((requirement) => requirement.kind === 'set-size');
  return {
    stems: new Map(clips.map(({ id }, index) => [id, names[index] ?? 'clip'])),
    troubles,
    seconds,
    soundBytes: sizes.reduce((sum, size) => sum + size, 0),
    mostBytes: budget?.kind === 'set-size' ? budget.most : null,
    findings: checkSet(target, { members: sizes.map((bytes) => ({ bytes, soundBytes: bytes })), others: [] }),
  };
}
