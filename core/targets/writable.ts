import { canCarry, type OutContainer, outContainerOf, USUAL_CONTAINER } from '../containers/index.ts';
import { carriesChannels, carriesRate, USUAL_ENCODING, writableEncoding } from '../encodings/index.ts';
import { encodingTitle } from '../facts/index.ts';
import { hertz } from '../numbers/index.ts';
import { formatChannels, formatChoice, formatRate } from '../words/index.ts';
import type { SettledDemands } from './demands.ts';

/** Encodings that a sheet asks for, the preferred one first; the usual one and what the container carries, if it does not. */
export const askedEncodings = (
  { encodings }: SettledDemands,
  { carries }: Pick<OutContainer, 'carries'>,
): readonly string[] => encodings?.value ?? [USUAL_ENCODING, ...carries];

/** Why no file can be written that meets such demands, as a clause; null if one can. */
export function unwritable(demands: SettledDemands): string | null {
  const container = outContainerOf(demands.containers?.value[0] ?? USUAL_CONTAINER);
  const asked = askedEncodings(demands, container);
  const carried = asked.filter((encoding) => canCarry(container, encoding));
  if (carried.length === 0) return `${container.title} cannot carry ${formatChoice(asked.map(encodingTitle))}`;
  const rates = demands.sampleRates?.value.map(hertz);
  const counts = demands.channelCounts?.value;
  const can = carried.map(writableEncoding);
  const what = [
    ...(rates && !can.some((encoding) => rates.some((rate) => carriesRate(encoding, rate)))
      ? rates.map(formatRate)
      : []),
    ...(counts && !can.some((encoding) => counts.some((count) => carriesChannels(encoding, count)))
      ? counts.map(formatChannels)
      : []),
  ];
  return what.length === 0 ? null : `${formatChoice(carried.map(encodingTitle))} cannot carry ${formatChoice(what)}`;
}
