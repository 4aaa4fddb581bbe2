import { findOutContainer, type Reading } from '../containers/index.ts';
import { hertz } from '../numbers/index.ts';
import { type Asking, askedBy } from './asked.ts';
import { type Demands, kindOf, type Requirement } from './requirements/index.ts';

/** A demand and the requirement that it comes from. */
export type SettledDemands = {
  readonly [K in keyof Demands]?: { readonly value: Demands[K]; readonly from: Requirement };
};

/** What the sheet asks of the stations. Of two requirements on the same thing the later one counts. */
export function demandsOf(target: Asking): SettledDemands {
  const demands: Record<string, unknown> = {};
  for (const from of askedBy(target)) {
    const kind = kindOf(from);
    if (from.advised && !kind.isDoneWhenAdvised) continue;
    for (const [name, value] of Object.entries(kind.demands?.(from) ?? {})) demands[name] = { value, from };
  }
  return demands as SettledDemands;
}

/** The lowest rate that a sheet allows, and the highest, in Hz. */
export function ratesOf(target: Asking): { readonly least: number; readonly most: number } {
  const { sampleRates, rateRange } = demandsOf(target);
  const rates = sampleRates?.value.map(hertz);
  if (rates) return { least: Math.min(...rates), most: Math.max(...rates) };
  return rateRange?.value ?? { least: 0, most: Number.POSITIVE_INFINITY };
}

/** Folder of the card in which a sheet wants its files; empty for the top. */
export const folderOf = (target: Asking): string => demandsOf(target).folder?.value ?? '';

/** How the device reads bytes without a header; undefined if it wants a file that describes itself. */
export function headerlessReading(target: Asking): Reading | undefined {
  const { containers, encodings, sampleRates, rateRange, channelCounts } = demandsOf(target);
  const isBare = containers?.value.some((id) => findOutContainer(id)?.describesItself === false);
  const rate = sampleRates?.value[0] ?? rateRange?.value.most;
  if (!isBare || !encodings || !rate) return undefined;
  return {
    encoding: encodings.value[0],
    sampleRate: Math.round(hertz(rate)),
    channels: channelCounts?.value[0] ?? 1,
  };
}
