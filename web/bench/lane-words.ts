import {
  askedBy,
  type Chain,
  containerTitle,
  encodingTitle,
  type Facts,
  findOutContainer,
  formatBytes,
  formatChannels,
  formatCount,
  formatLength,
  formatRate,
  formatSeconds,
  soundBytesOf,
  type Target,
} from '@tambur/core';
import type { Cut } from '../sound/cut.ts';
import type { Grid } from '../sound/snap.ts';

/** What a block of the device, and a bar at its tempo, come to in frames of the source. */
export function unitsOf(chain: Chain | null, target: Target): Pick<Grid, 'block' | 'bar'> & { readonly beats: number } {
  if (!chain) return { block: null, bar: null, beats: 1 };
  const { ends, rate } = chain.stations;
  const { rule } = ends.plan;
  const toSource = rate.plan.from / rate.plan.to;
  const bars = askedBy(target).find((requirement) => requirement.kind === 'bars');
  return {
    block: rule.kind === 'blocks' && rule.multipleOf > 1 ? rule.multipleOf * toSource : null,
    bar: bars?.kind === 'bars' ? (bars.beats * 60 * chain.order.facts.sampleRate) / bars.tempo : null,
    beats: bars?.kind === 'bars' ? bars.beats : 1,
  };
}

const isSourceCode = ({ array, container }: Facts): boolean =>
  array !== undefined || findOutContainer(container)?.textOptions !== undefined;

/** How much room a file takes: of source code what the device's memory holds of it. */
const sizeWords = (facts: Facts): string =>
  isSourceCode(facts) ? `${formatCount(facts.soundBytes ?? facts.bytes)} bytes in memory` : formatBytes(facts.bytes);

/** How long the text of source code is, which nobody has to make room for. */
const textWords = (facts: Facts): string | null => (isSourceCode(facts) ? `${formatBytes(facts.bytes)} as text` : null);

/** How long and how large the whole will be, of which only a piece is there yet. */
function plannedWords(chain: Chain): string[] {
  const { ends, rate } = chain.stations;
  return [
    formatSeconds(ends.plan.frames / rate.plan.to),
    `${formatCount(ends.plan.frames)} frames`,
    `about ${formatBytes(soundBytesOf(chain))}`,
  ];
}

/** What a source is. */
export const sourceWords = (facts: Facts): (string | null)[] => [
  formatRate(facts.sampleRate),
  formatChannels(facts.channels),
  facts.bitDepth ? `${facts.bitDepth} bit` : encodingTitle(facts.encoding),
  facts.bitDepth ? encodingTitle(facts.encoding).replace(/^\d+-bit /, '') : null,
  facts.container === facts.encoding ? null : containerTitle(facts.container),
  formatSeconds(facts.frames / facts.sampleRate),
  `${formatCount(facts.frames)} frames`,
  formatBytes(facts.bytes),
];

/** What a file is; of one of which only a piece was made, what the chain plans. */
export const resultWords = (facts: Facts, chain: Chain, isWhole: boolean): (string | null)[] => [
  formatRate(facts.sampleRate),
  formatChannels(facts.channels),
  encodingTitle(facts.encoding),
  ...(isWhole
    ? [
        sizeWords(facts),
        formatSeconds(facts.frames / facts.sampleRate),
        `${formatCount(facts.frames)} frames`,
        textWords(facts),
      ]
    : plannedWords(chain)),
];

/** How long a cut is, and what becomes of it: "0.910 s, 40 131 frames: 14 560 frames, 61 blocks, 14.6 kB". */
export function cutWords({ start, end }: Cut, sampleRate: number, chain: Chain | null): string {
  const came = formatLength(end - start, sampleRate);
  if (!chain) return came;
  const { frames, rule } = chain.stations.ends.plan;
  const block = rule.kind === 'blocks' ? rule.multipleOf : 1;
  return `${came}: ${[
    `${formatCount(frames)} frames`,
    ...(block > 1 ? [`${formatCount(frames / block)} blocks of ${formatCount(block)}`] : []),
    formatBytes(soundBytesOf(chain)),
  ].join(', ')}`;
}
