import { canCarry, type OutContainer, outContainerOf, USUAL_CONTAINER } from '../containers/index.ts';
import { carriesRate, findCompressed, USUAL_ENCODING } from '../encodings/index.ts';
import { encodingTitle } from '../facts/index.ts';
import { hertz } from '../numbers/index.ts';
import { formatChoice, formatRate } from '../words/index.ts';
import type { SettledDemands } from './demands.ts';

/** Encodings that a sheet asks for, the preferred one first; the usual one and what the container carries, if it does not. */
export const askedEncodings = (
  { encodings }: SettledDemands,
  { carries }: Pick<OutContainer, 'carries'>,
): readonly string[] => encodings?.value ?? [USUAL_ENCODING, ...carries];

/** Why no file can be written that meets such demands, as a clause; null where one can. */
export function unwritable(demands: SettledDemands): string | null {
  const container = outContainerOf(demands.containers?.value[0] ?? USUAL_CONTAINER);
  const asked = askedEncodings(demands, container);
  const carried = asked.filter((encoding) => canCarry(container, encoding));
  if (carried.length === 0) return `${container.title} cannot carry ${formatChoice(asked.map(encodingTitle))}`;
  const rates = demands.sampleRates?.value.map(hertz);
  const hasRate = (id: string) => {
    const library = findCompressed(id);
    return !library || !rates || rates.some((rate) => carriesRate(library, rate));
  };
  if (!rates || carried.some(hasRate)) return null;
  return `${formatChoice(carried.map(encodingTitle))} cannot carry ${formatChoice(rates.map(formatRate))}`;
}
