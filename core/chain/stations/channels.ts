import * as v from 'valibot';
import { deadChannels } from '../../audio/index.ts';
import { Room } from '../../bytes/index.ts';
import { keepOne, type MixMatrix, meanOfAll, mix, passThrough, spread, surroundMix } from '../../dsp/index.ts';
import { carriesChannels, type Encoding, writableEncoding } from '../../encodings/index.ts';
import type { Facts } from '../../facts/index.ts';
import { type NumberRange, within } from '../../forms/index.ts';
import { formatChannels, InputError } from '../../words/index.ts';
import { eachBlock } from '../passage.ts';
import { BY_HAND, bySheet, type Context, isAmong, type SettledStation, station } from '../station.ts';
import { wrap } from './wrap.ts';

/** Weights that a channel can have. */
export const WEIGHT_RANGE: NumberRange = { least: -4, most: 4 };

const wish = v.strictObject({
  mode: v.picklist(['left', 'right', 'one', 'mix', 'equal-power', 'side', 'weights', 'keep', 'stereo']),
  /** For `one`: which, from 0. */
  channel: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0))),
  /** For `weights`: what each channel of the source gives to one of the result. */
  weights: v.optional(v.pipe(v.array(within(WEIGHT_RANGE)), v.minLength(1))),
});
type Wish = v.InferOutput<typeof wish>;

export interface ChannelsPlan {
  /** One row of weights for each channel of the result. */
  readonly matrix: MixMatrix;
}

/** Below this correlation a mix of both sides cancels more than it keeps. Common practice, no source. */
const OUT_OF_PHASE = -0.5;
/** Below this one the sides are the same sound upside down: turned round, a mix keeps all of it. Common practice, no source. */
const INVERTED = -0.9;

/** All channels as one; three and more by the shares of ITU-R BS.775. None of it can exceed full scale. */
const allAsOne = ({ channels: inputs, layout }: Facts): MixMatrix =>
  (inputs > 2 && surroundMix(inputs, layout, 1)) || meanOfAll(inputs);

/** (left - right) / 2: what the sides do not share; and the whole, where one side is the other turned round. */
const side: MixMatrix = [[0.5, -0.5]];

interface Choice {
  readonly matrix: MixMatrix;
  readonly figure: string;
  readonly because: string;
}

function chooseMono(facts: Facts): Choice {
  const inputs = facts.channels;
  if (inputs > 2) {
    const because = `The ${inputs} channels are mixed by the shares of ITU-R BS.775.`;
    return { matrix: allAsOne(facts), figure: 'mix', because };
  }
  const dead = deadChannels(facts.levels);
  if (dead.length === 1) {
    const kept = 1 - dead[0];
    const because = `The ${kept === 0 ? 'right' : 'left'} side is silent, so the other is kept.`;
    return { matrix: keepOne(inputs, kept), figure: kept === 0 ? 'keep left' : 'keep right', because };
  }
  const { correlation } = facts.levels;
  if (correlation !== null && correlation < INVERTED) {
    const because = 'The right side is the left one inverted, so it is turned back before the two are mixed.';
    return { matrix: side, figure: 'invert, mix', because };
  }
  if (correlation !== null && correlation < OUT_OF_PHASE) {
    const because = 'The two sides are out of phase and a mix would cancel, so the left one is kept.';
    return { matrix: keepOne(inputs, 0), figure: 'keep left', because };
  }
  return { matrix: allAsOne(facts), figure: 'mix L+R', because: 'Both sides carry sound, so they are mixed.' };
}

/** @throws InputError if the source has not what is wished for */
function byHand({ mode, channel = 0, weights = [] }: Wish, facts: Facts): Omit<Choice, 'because'> {
  const inputs = facts.channels;
  const refuse = (what: string) =>
    new InputError('bad-setting', `Channels: the source is ${formatChannels(inputs)}; ${what}.`);
  switch (mode) {
    case 'left':
      return { matrix: keepOne(inputs, 0), figure: 'keep left' };
    case 'right':
      return { matrix: keepOne(inputs, Math.min(1, inputs - 1)), figure: 'keep right' };
    case 'one':
      if (channel >= inputs) throw refuse(`choose channel 1 to ${inputs}`);
      return { matrix: keepOne(inputs, channel), figure: `channel ${channel + 1}` };
    case 'mix':
      return { matrix: allAsOne(facts), figure: 'mix' };
    case 'equal-power':
      return { matrix: [new Array<number>(inputs).fill(1 / Math.sqrt(inputs))], figure: 'equal power' };
    case 'side':
      if (inputs !== 2) throw refuse('only stereo has a side signal, so choose another way');
      return { matrix: side, figure: 'side' };
    case 'weights':
      if (weights.length !== inputs) throw refuse(`give ${inputs} weights, one for each channel`);
      return { matrix: [weights], figure: weights.map((weight) => weight.toFixed(2)).join(' ') };
    case 'stereo':
      return { matrix: stereoOf(facts).matrix, figure: 'stereo' };
    case 'keep':
      return { matrix: passThrough(inputs), figure: 'as they are' };
  }
}

function stereoOf({ channels: inputs, layout }: Facts): Omit<Choice, 'figure'> {
  if (inputs === 2) return { matrix: passThrough(2), because: '' };
  const shares = inputs > 2 ? surroundMix(inputs, layout, 2) : null;
  return shares
    ? { matrix: shares, because: `The ${inputs} channels are mixed by the shares of ITU-R BS.775.` }
    : { matrix: spread(2).map(() => meanOfAll(inputs)[0]), because: 'Each gets the same sound.' };
}

/** How much louder than its loudest input a mix may come out, in dB. */
const mostGain = (matrix: MixMatrix): number =>
  20 * Math.log10(Math.max(...matrix.map((row) => row.reduce((sum, weight) => sum + Math.abs(weight), 0))));

/** What the user set. */
function settledByHand(wished: Wish, facts: Facts): SettledStation<ChannelsPlan> {
  const { matrix, figure } = byHand(wished, facts);
  const { correlation } = facts.levels;
  const cancels = ['mix', 'equal-power'].includes(wished.mode) && correlation !== null && correlation < OUT_OF_PHASE;
  const louder = mostGain(matrix);
  const why = [
    BY_HAND,
    ...(cancels ? ['The sides are out of phase: the mix is thin.'] : []),
    ...(louder > 0.005
      ? [`It may come out up to ${louder.toFixed(1)} dB louder than its inputs: watch the headroom.`]
      : []),
  ];
  return {
    plan: { matrix },
    byHand: true,
    figure: facts.channels === 1 && matrix.length === 1 ? 'mono' : figure,
    why: why.join(' '),
  };
}

/** As the sheet and the encoding have it. */
function settledAutomatically({ facts, demands: { channelCounts } }: Context, encoding: Encoding) {
  const inputs = facts.channels;
  const settled = (choice: Omit<Choice, 'because'> & { why: string }): SettledStation<ChannelsPlan> => ({
    plan: { matrix: choice.matrix },
    byHand: false,
    figure: choice.figure,
    why: choice.why,
  });
  const dead = channelCounts && inputs === 2 ? deadChannels(facts.levels) : [];
  if (dead.length === 1 && channelCounts?.value.includes(2)) {
    // A device would play one side alone; a sheet that takes one channel needs no second.
    const live = 1 - dead[0];
    const counts = channelCounts.value.includes(1) ? 1 : 2;
    return settled({
      matrix: Array.from({ length: counts }, () => keepOne(inputs, live)[0]),
      figure: `${live === 0 ? 'left' : 'right'}, ${formatChannels(counts)}`,
      why: `The ${live === 0 ? 'right' : 'left'} side is silent, so the other is ${counts === 1 ? 'kept' : 'put on both'}.`,
    });
  }
  if (channelCounts ? channelCounts.value.includes(inputs) : carriesChannels(encoding, inputs)) {
    const why = channelCounts
      ? `The source is ${formatChannels(inputs)}, as the sheet wants.`
      : 'The sheet does not ask for a number of channels.';
    return settled({ matrix: passThrough(inputs), figure: formatChannels(inputs), why });
  }
  const wanted = channelCounts?.value[0] ?? (carriesChannels(encoding, 2) ? 2 : 1);
  const asked = channelCounts ? bySheet(formatChannels(wanted)) : `${tooMany(encoding)}.`;
  if (wanted === 1) {
    const { matrix, figure, because } = chooseMono(facts);
    return settled({ matrix, figure, why: `${asked} ${because}` });
  }
  const { matrix, because } =
    wanted === 2
      ? stereoOf(facts)
      : { matrix: spread(wanted).map(() => meanOfAll(inputs)[0]), because: 'Each gets the same sound.' };
  return settled({ matrix, figure: formatChannels(wanted), why: `${asked} ${because}` });
}

/** What an encoding can carry, where that is not enough. */
const tooMany = ({ title, carries }: Encoding): string =>
  `${title} carries at most ${carries?.mostChannels === 1 ? '1 channel' : `${carries?.mostChannels} channels`}`;

/** How many channels leave, and what they are made of. */
export const channels = station({
  id: 'channels',
  title: 'Channels',
  wish,
  needs: { wrap },
  settle(context, wished: Wish | undefined, before): SettledStation<ChannelsPlan> {
    const encoding = writableEncoding(before.wrap.encoding);
    const settled = wished ? settledByHand(wished, context.facts) : settledAutomatically(context, encoding);
    if (!carriesChannels(encoding, settled.plan.matrix.length)) {
      throw new InputError('bad-setting', `Channels: ${tooMany(encoding)}; choose fewer, or another encoding at Wrap.`);
    }
    return settled;
  },
  steps: ({ matrix }) => [
    {
      start() {
        const room = new Room();
        return eachBlock((block) => mix(block, matrix, room));
      },
    },
  ],
  formatAfter: ({ matrix }, format) => ({ ...format, channels: matrix.length }),
  alternatives: () => [
    { label: 'left', wish: { mode: 'left' } },
    { label: 'right', wish: { mode: 'right' } },
    { label: 'both mixed', wish: { mode: 'mix' } },
    { label: 'both mixed, equal power', wish: { mode: 'equal-power' } },
    { label: 'all kept', wish: { mode: 'keep' } },
  ],
  isAskedFor: ({ matrix }, { channelCounts }) => isAmong(channelCounts, matrix.length),
});
