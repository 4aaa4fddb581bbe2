import { formatChoice, formatRate, hertz } from '../audio/index.ts';
import { canCarry, outContainers, USUAL_CONTAINER } from '../containers/index.ts';
import { findCompressed, USUAL_ENCODING } from '../encodings/index.ts';
import { containerTitle, encodingTitle } from '../facts/index.ts';
import type { SettledDemands } from './target.ts';

/** Why no file can be written that meets such demands, as a clause; null where one can. */
export function unwritable({ containers, encodings, sampleRates }: SettledDemands): string | null {
  const id = containers?.value[0] ?? USUAL_CONTAINER;
  const container = outContainers().find((entry) => entry.id === id);
  if (!container) return `no file of the kind "${id}" can be written`;
  const asked = encodings?.value ?? [USUAL_ENCODING, ...container.carries];
  const carried = asked.filter((encoding) => canCarry(container, encoding));
  if (carried.length === 0) return `${containerTitle(id)} cannot carry ${formatChoice(asked.map(encodingTitle))}`;
  const rates = sampleRates?.value.map(hertz);
  const hasRate = (encoding: string) => {
    const library = findCompressed(encoding);
    if (!library || !rates) return true;
    const { sampleRates: known, leastRate, mostRate } = library;
    return rates.some((rate) => known?.includes(rate) ?? (rate >= leastRate && rate <= mostRate));
  };
  if (carried.some(hasRate) || !rates) return null;
  return `${formatChoice(carried.map(encodingTitle))} cannot carry ${formatChoice(rates.map((rate) => formatRate(rate)))}`;
}
