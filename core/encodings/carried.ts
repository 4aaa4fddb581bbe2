import type { Encoding } from './encoding.ts';

/** True if an encoding can carry so many Hz. */
export const carriesRate = (encoding: Encoding, rate: number): boolean => nearestRate(encoding, rate) === rate;

/** The rate that an encoding can carry: this one, else the next higher, else the highest. Hz. */
export function nearestRate({ carries }: Encoding, rate: number): number {
  if (!carries) return rate;
  const { sampleRates, leastRate = 0, mostRate = Number.POSITIVE_INFINITY } = carries;
  if (sampleRates) return sampleRates.find((entry) => entry >= rate) ?? sampleRates[sampleRates.length - 1];
  return Math.min(mostRate, Math.max(leastRate, rate));
}

/** True if an encoding can carry so many channels. */
export const carriesChannels = ({ carries }: Encoding, channels: number): boolean =>
  channels <= (carries?.mostChannels ?? Number.POSITIVE_INFINITY);
