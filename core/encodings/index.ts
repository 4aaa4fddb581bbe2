import type { Encoding } from './encoding.ts';
import { float32, float32be, float64, float64be } from './float.ts';
import { aLaw, muLaw } from './g711.ts';
import { pcmS8, pcmS16, pcmS16be, pcmS24, pcmS24be, pcmS32, pcmS32be, pcmU8, pcmU16 } from './pcm.ts';

export type { Encoding, FloatEncoding, IntegerEncoding } from './encoding.ts';

/** Every encoding that Tambur reads and writes sample by sample. A new one: its file, and its line here. */
export const encodings: readonly Encoding[] = [
  pcmU8,
  pcmS8,
  pcmU16,
  pcmS16,
  pcmS16be,
  pcmS24,
  pcmS24be,
  pcmS32,
  pcmS32be,
  float32,
  float32be,
  float64,
  float64be,
  muLaw,
  aLaw,
];

const byId = new Map(encodings.map((encoding) => [encoding.id, encoding]));

export const findEncoding = (id: string): Encoding | undefined => byId.get(id);

/** @throws RangeError for an id that is not in the list: a mistake of a developer, not of a user. */
export function encodingOf(id: string): Encoding {
  const encoding = byId.get(id);
  if (!encoding) throw new RangeError(`no encoding "${id}"`);
  return encoding;
}
