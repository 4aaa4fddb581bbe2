import { type SymptomId, stepsAt, symptoms } from '../standin/index.ts';
import type { Cause, Suspicion } from './cause.ts';
import { causes } from './causes/list.ts';
import { type Evidence, gather, type Situation } from './evidence.ts';

/** What came of trying a cause. */
interface Tried extends Suspicion {
  readonly cause: Cause;
}

/** A cause of a symptom on these bytes, with how strongly it makes it. */
export interface Ranked extends Tried {
  /** 0..1. */
  readonly strength: number;
}

export interface Explained {
  readonly symptom: SymptomId;
  /** The likeliest first. */
  readonly causes: readonly Ranked[];
  /** What there is to say beside them, or if there is none. */
  readonly answer: string;
  /** Steps at the device that may be behind it, whatever the file is. */
  readonly atTheDevice: readonly string[];
}

/** Weaker ones are not offered. */
const WORTH_SAYING = 0.2;

/** From here on it is said of a file that something else is wrong with it. */
const FAULT = 0.7;

const NOTHING_WRONG = 'Nothing wrong with the file: look at the device.';
const CANNOT_TELL = 'This cannot be told from the file: record the device.';

/** Symptoms of a wrong rate, of which bare samples say nothing. */
const OF_SPEED: readonly SymptomId[] = ['too-slow', 'too-fast'];

/** What may be behind a symptom, the likeliest first, each tried on the very bytes. */
export async function explain(symptom: SymptomId, situation: Situation): Promise<Explained> {
  return explainFrom(symptom, await gather(situation));
}

/** What came of trying each cause on a file: once, whatever is asked. */
const tried = new WeakMap<Evidence, Promise<readonly Tried[]>>();

async function tryAll(evidence: Evidence) {
  const found: Tried[] = [];
  for (const cause of causes) {
    const suspicion = await cause.try(evidence);
    if (suspicion) found.push({ ...suspicion, cause });
  }
  return found;
}

/** What is wrong with a file that makes another symptom than the one that was asked about; empty if nothing is. */
function otherFault(suspicions: readonly Tried[]): string {
  const [other] = suspicions
    .flatMap(({ cause, signs }) => symptoms.map(({ id, title }) => ({ cause, title, strength: signs[id] ?? 0 })))
    .filter(({ strength }) => strength >= FAULT)
    .sort((a, b) => b.strength - a.strength);
  return other
    ? `The bytes do not tell what makes this; but something else is wrong with it: ${other.cause.title} (“${other.title}”).`
    : '';
}

/** The same, from evidence that is there already. */
export async function explainFrom(symptom: SymptomId, evidence: Evidence): Promise<Explained> {
  const all = tried.get(evidence) ?? tryAll(evidence);
  tried.set(evidence, all);
  const suspicions = await all;
  const ranked = suspicions
    .map((suspicion): Ranked => ({ ...suspicion, strength: suspicion.signs[symptom] ?? 0 }))
    .filter(({ strength }) => strength >= WORTH_SAYING)
    .sort((a, b) => b.strength - a.strength);
  const { facts, situation } = evidence;
  const [unknown] = (facts && situation.notKnown?.(facts)) || [];
  const cannotTell =
    ranked.length === 0 && OF_SPEED.includes(symptom) && evidence.truth?.how !== 'stated' && !situation.source;
  return {
    symptom,
    causes: ranked,
    answer: ranked.length ? '' : cannotTell ? CANNOT_TELL : otherFault(suspicions) || (unknown ?? NOTHING_WRONG),
    atTheDevice: stepsAt(evidence.player, symptom),
  };
}

/** A symptom by its name; undefined if there is none. */
export const findSymptom = (id: string) => symptoms.find((symptom) => symptom.id === id);
