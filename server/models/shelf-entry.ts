import {
  anyEncoding,
  CORE_VERSION,
  describeFacts,
  FACTS_VERSION,
  type Facts,
  foreignContainers,
  inLatin,
  kindWords,
  remarksOn,
} from '@tambur/core';
import type { SourceKind } from '../answers/views.ts';

export function kindOf({ container, encoding, certainty }: Facts): SourceKind {
  if (certainty === 'assumed') return 'bare';
  if (foreignContainers.find(({ id }) => id === container)?.holdsPictures) return 'video';
  return anyEncoding(encoding)?.compression ?? 'plain';
}

/** Small letters, and figures without their thin spaces: so they are found with them and without. */
export const searchable = (text: string): string => text.toLowerCase().replace(/\u202f/g, '');

/** Digits that a number in a name is filled up to, so that 9 comes before 10. */
const NUMBER_WIDTH = 12;

interface DescribedSource {
  readonly id: string;
  readonly name: string;
  readonly facts: Facts;
  readonly createdAt: Date;
}

/** What a source is searched and sorted by. */
export function entryOf({ id, name, facts, createdAt }: DescribedSource) {
  const lines = describeFacts(facts, name).map(({ label, value }) => `${label} ${value}`);
  return {
    sourceId: id,
    madeBy: CORE_VERSION,
    words: searchable([name, ...lines].join('\n')),
    name: inLatin(name)
      .toLowerCase()
      .replace(/\d+/g, (digits) => digits.padStart(NUMBER_WIDTH, '0')),
    kind: kindOf(facts),
    kindTitle: kindWords(facts),
    isRemarked: remarksOn(facts, name).length > 0,
    sampleRate: facts.sampleRate,
    channels: facts.channels,
    seconds: facts.frames / facts.sampleRate,
    bytes: facts.bytes,
    addedAt: createdAt,
  };
}

/** Facts of another version are read again from the file at the start; until then nobody can describe them. */
export const isDescribed = ({ facts }: DescribedSource) => facts.version === FACTS_VERSION;
