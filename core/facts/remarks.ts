import { deadChannels } from '../audio/index.ts';
import { foreignContainers, outContainers } from '../containers/index.ts';
import { formatCount, formatRate } from '../words/index.ts';
import { containerTitle, type Facts } from './facts.ts';

/** Extensions, without the dot, of files that hold such a container. */
export const extensionsOf = (container: string): readonly string[] =>
  [...outContainers(), ...foreignContainers].find(({ id }) => id === container)?.extensions ?? [];

const extensionOf = (name: string): string | null => /\.([A-Za-z0-9]{1,8})$/.exec(name)?.[1]?.toLowerCase() ?? null;

/** The name's extension against the content: "Named .mp3, is WAV." Headerless files may be called anything. */
function nameRemark(name: string | null, { array, container, certainty }: Facts): string[] {
  const usual = extensionsOf(array ?? container);
  if (name === null || certainty === 'assumed' || usual.length === 0) return [];
  const extension = extensionOf(name);
  if (extension === null) return [`The name has no extension; the file is ${containerTitle(container)}.`];
  return usual.includes(extension) ? [] : [`Named .${extension}, is ${containerTitle(container)}.`];
}

const SIDES = ['left', 'right'];

/**
 * Where a file states one thing and holds another: sentences in the order of weight, the same on every screen and on the
 * command line. `name` is the file's; null if nobody knows it.
 */
export function remarksOn(facts: Facts, name: string | null): string[] {
  const { levels, measures, channels, bitDepth, sampleRate } = facts;
  const dead = deadChannels(levels);
  const sideOf = (channel: number) => (channels === 2 ? `the ${SIDES[channel]} one` : `number ${channel + 1}`);
  const isSilent = measures.loudness === null && Math.max(...levels.peak) === 0;
  return [
    ...nameRemark(name, facts),
    ...facts.warnings,
    ...(isSilent ? ['Every sample is 0: the file holds silence.'] : []),
    ...dead.map((channel) => `States ${formatCount(channels)} channels, but ${sideOf(channel)} is silent.`),
    ...(channels === 2 && dead.length === 0 && levels.correlation !== null && levels.correlation > 0.99999
      ? ['States stereo, but both channels hold the same: it is a mono sound.']
      : []),
    ...(levels.correlation !== null && levels.correlation < -0.9
      ? ['The two channels are in opposite phase: mixed to mono they cancel.']
      : []),
    ...(bitDepth !== null && measures.usedBits !== null && measures.usedBits < bitDepth
      ? [`States ${bitDepth} bits, but only the upper ${measures.usedBits} are used.`]
      : []),
    ...(measures.bandwidth !== null && measures.bandwidth < sampleRate / 4
      ? [
          `States ${formatRate(sampleRate)}, but there is nothing above ${formatRate(roundUp(measures.bandwidth))}: half the rate would hold it.`,
        ]
      : []),
  ];
}

/** Up to two digits: the figure is an estimate. */
function roundUp(hz: number): number {
  const step = 10 ** Math.max(1, Math.floor(Math.log10(Math.max(1, hz))) - 1);
  return Math.ceil(hz / step) * step;
}
