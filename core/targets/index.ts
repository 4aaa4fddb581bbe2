import { InputError } from '../audio/index.ts';
import { deskPhoneRingTone } from './sheets/desk-phone-ring-tone.ts';
import { microcontroller8BitDac } from './sheets/microcontroller-8-bit-dac.ts';
import type { Target } from './target.ts';

export * from './requirements/index.ts';
export * from './target.ts';

/** The sheets that ship with Tambur. A new one: its file, and its line here. */
export const targets: readonly Target[] = [deskPhoneRingTone, microcontroller8BitDac];

/** @throws InputError with code `unknown-target` */
export function targetOf(id: string): Target {
  const target = targets.find((entry) => entry.id === id);
  if (!target) {
    const known = targets.map((entry) => entry.id).join(', ');
    throw new InputError('unknown-target', `There is no target "${id}"; choose one of: ${known}.`);
  }
  return target;
}
