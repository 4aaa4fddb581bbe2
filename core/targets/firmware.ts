import * as v from 'valibot';
import { type Firmware, versionSchema } from './parts.ts';
import type { Target, Variant } from './target.ts';

/** Below 0 where a firmware is older than another, as far as that one is given: 2.1.7 is no newer than 2.1. */
function compared(given: string, other: string): number {
  const [a, b] = [given, other].map((text) => text.split('.').map(Number)) as [number[], number[]];
  const at = b.findIndex((part, i) => (a[i] ?? 0) !== part);
  return at < 0 ? 0 : (a[at] ?? 0) - (b[at] ?? 0);
}

const holds = ({ from, upTo }: Firmware, given: string): boolean =>
  (from === undefined || compared(given, from) >= 0) && (upTo === undefined || compared(given, upTo) <= 0);

const isNumbered = ({ firmware }: Variant) => firmware?.from !== undefined || firmware?.upTo !== undefined;

/** What is asked to choose a variant: the number of the firmware, or whether it is an older one; null where that is no matter. */
export function firmwareQuestion({ variants }: Pick<Target, 'variants'>): 'number' | 'older' | null {
  if (variants.some(isNumbered)) return 'number';
  return variants.length > 0 && variants.every(({ firmware }) => firmware) ? 'older' : null;
}

/** The variant that holds for a firmware, and why; null if what is given is no number of one. */
export function variantForFirmware(
  { variants }: Pick<Target, 'variants'>,
  given: string,
): { readonly variant: string | null; readonly why: string } | null {
  const read = v.safeParse(versionSchema, given);
  if (!read.success) return null;
  const found = variants.find(
    (variant) => isNumbered(variant) && variant.firmware && holds(variant.firmware, read.output),
  );
  if (!found)
    return { variant: null, why: `Firmware ${read.output}: no variant is for it, so the sheet itself holds.` };
  const { from, upTo } = found.firmware ?? {};
  const range = [...(from ? [`from ${from} on`] : []), ...(upTo ? [`up to ${upTo}`] : [])].join(', ');
  return { variant: found.id, why: `Firmware ${read.output}: ${found.name}, which holds ${range}.` };
}
