import { canCarry, type OutContainer, outContainerOf, outContainers, USUAL_CONTAINER } from '../containers/index.ts';
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

/**
 * The container that a sheet asks for first. If it leaves that open: the usual one, or the first that carries an encoding that is
 * asked for, source code last.
 */
export function askedContainer({ containers, encodings }: SettledDemands): string {
  if (containers) return containers.value[0];
  const usual = outContainerOf(USUAL_CONTAINER);
  const carries = (container: OutContainer) => encodings?.value.some((id) => canCarry(container, id)) ?? true;
  const all = outContainers();
  return ([usual, ...all.filter(({ textOptions }) => !textOptions), ...all].find(carries) ?? usual).id;
}

/** Why no file can be written that meets such demands, as a clause; null if one can. */
export function unwritable(demands: SettledDemands): string | null {
  const container = outContainerOf(askedContainer(demands));
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
