import {
  askedBy,
  type Chain,
  type ClipOrder,
  checkPlaces,
  checkSet,
  type Finding,
  filesByClip,
  hasLimitsOfPlaces,
  InputError,
  type Placing,
  type PlannedFile,
  placing,
  plannedFiles,
  type RankedClip,
  type SetMember,
  settingsOf,
  settle,
  sheetForClip,
  soundBytesOf,
  sourceOf,
  type Target,
  type WorkingJob,
} from '@tambur/core';
import type { SourceView } from '@tambur/server';

/** A clip whose chain is settled, or why it cannot be. */
export type SettledClip = { readonly chain: Chain } | { readonly refused: string };

/** The chain of a clip; null if it cannot be settled, or is not known yet. */
export const chainOf = (settled: SettledClip | null | undefined): Chain | null =>
  settled && 'chain' in settled ? settled.chain : null;

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
  readonly placing: Placing;
  /** The files of each clip. */
  readonly files: ReadonlyMap<string, readonly PlannedFile[]>;
}

/** What a clip was settled from, and what came of it. */
interface SettledMemo {
  readonly from: Pick<ClipOrder, 'facts' | 'target' | 'stem'> & Pick<WorkingJob, 'wishes'>;
  readonly outcome: SettledClip;
}

/** Clips are never changed but replaced, so what was settled of them stays true while all else is the same. */
const known = new WeakMap<RankedClip, SettledMemo>();

/** Sheets for clips, by their values, and by their places where those matter: what is asked alike is the same sheet. */
const filled = new WeakMap<Target, Map<string, Target>>();

function filledForClip(target: Target, values: RankedClip['values'], slots: readonly number[]): Target {
  const key = JSON.stringify([values, hasLimitsOfPlaces(target) ? slots : []]);
  const known = filled.get(target) ?? new Map<string, Target>();
  filled.set(target, known);
  const sheet = known.get(key) ?? sheetForClip(target, values, slots);
  known.set(key, sheet);
  return sheet;
}

function settleOnce(clip: RankedClip, from: SettledMemo['from']): SettledClip {
  const last = known.get(clip);
  const isSame = last && (Object.keys(from) as (keyof typeof from)[]).every((key) => last.from[key] === from[key]);
  if (last && isSame) return last.outcome;
  const { wishes, ...order } = from;
  const outcome = settleOrRefuse({ ...order, settings: settingsOf(clip, { wishes }) });
  known.set(clip, { from, outcome });
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
  { clips, wishes, places }: Pick<WorkingJob, 'clips' | 'wishes' | 'places'>,
  sources: ReadonlyMap<string, SourceView>,
  target: Target,
): SettledSet {
  const placed = placing(clips, places, target);
  const files = filesByClip(plannedFiles(clips, places, target));
  const settled = new Map<string, SettledClip>();
  const troubles = new Map<string, string>();
  const seconds = new Map<string, number>();
  const members: SetMember[] = [];
  for (const entry of clips) {
    const { id } = entry;
    const source = sources.get(sourceOf(entry));
    if (!source) continue;
    const own = files.get(id) ?? [];
    // Of a clip with several files the first stands for all.
    const [first] = own;
    const stem = first?.stem ?? 'clip';
    const asked = filledForClip(target, entry.values, first?.slots ?? []);
    const clip = settleOnce(entry, { facts: source.facts, wishes, target: asked, stem });
    settled.set(id, clip);
    if ('refused' in clip) {
      troubles.set(id, clip.refused);
      continue;
    }
    const { stations, obstacles } = clip.chain;
    const bytes = soundBytesOf(clip.chain);
    const { frames } = stations.ends.plan;
    const member = { bytes, soundBytes: bytes, frames, sampleRate: stations.rate.plan.to };
    for (const _ of own) members.push(member);
    seconds.set(id, frames / member.sampleRate);
    if (obstacles[0]) troubles.set(id, obstacles[0].text);
  }
  const budget = askedBy(target).find((requirement) => requirement.kind === 'set-size');
  return {
    settled,
    troubles,
    seconds,
    soundBytes: members.reduce((sum, { bytes }) => sum + bytes, 0),
    mostBytes: budget?.kind === 'set-size' ? budget.most : null,
    findings: [...checkSet(target, { members, others: [] }), ...checkPlaces(target, placed.keys())],
    placing: placed,
    files,
  };
}
