import * as v from 'valibot';
import { deadChannels, formatChannels } from '../../audio/index.ts';
import { keepOne, type MixMatrix, meanOfAll, mix, passThrough, spread } from '../../dsp/index.ts';
import type { Facts } from '../../facts/index.ts';
import { BY_HAND, bySheet, type Station } from '../station.ts';

const wish = v.strictObject({ mode: v.picklist(['left', 'right', 'mix', 'keep']) });
type Mode = v.InferOutput<typeof wish>['mode'];

export interface ChannelsPlan {
  /** One row of weights for each channel of the result. */
  readonly matrix: MixMatrix;
}

/** Below this correlation a mix of both sides cancels more than it keeps. Common practice, no source. */
const OUT_OF_PHASE = -0.5;

function chooseMono(facts: Facts): { mode: Mode; kept: number; because: string } {
  const dead = deadChannels(facts.levels);
  if (facts.channels === 2 && dead.length === 1) {
    const kept = 1 - dead[0];
    return {
      mode: kept === 0 ? 'left' : 'right',
      kept,
      because: `The ${kept === 0 ? 'right' : 'left'} side is silent, so the other is kept.`,
    };
  }
  const { correlation } = facts.levels;
  if (facts.channels === 2 && correlation !== null && correlation < OUT_OF_PHASE) {
    return {
      mode: 'left',
      kept: 0,
      because: 'The two sides are out of phase and a mix would cancel, so the left one is kept.',
    };
  }
  return { mode: 'mix', kept: 0, because: 'Both sides carry sound, so they are mixed.' };
}

const figures: Record<Mode, string> = { left: 'keep left', right: 'keep right', mix: 'mix', keep: 'as they are' };

const matrixOf = (mode: Mode, inputs: number): MixMatrix =>
  mode === 'mix'
    ? meanOfAll(inputs)
    : mode === 'keep'
      ? passThrough(inputs)
      : keepOne(inputs, mode === 'left' ? 0 : Math.min(1, inputs - 1));

/** How many channels leave, and what they are made of. */
export const channels: Station<v.InferOutput<typeof wish>, ChannelsPlan> = {
  title: 'Channels',
  wish,
  needs: [],
  settle({ facts, demands: { channelCounts } }, wished) {
    const inputs = facts.channels;
    if (wished) {
      const { correlation } = facts.levels;
      const thin = wished.mode === 'mix' && correlation !== null && correlation < OUT_OF_PHASE;
      return {
        plan: { matrix: matrixOf(wished.mode, inputs) },
        byHand: true,
        figure: inputs === 1 ? 'mono' : figures[wished.mode],
        why: thin ? `${BY_HAND} The sides are out of phase: the mix is thin.` : BY_HAND,
      };
    }
    if (!channelCounts || channelCounts.value.includes(inputs)) {
      const why = channelCounts
        ? `The source is ${formatChannels(inputs)}, as the sheet wants.`
        : 'The sheet does not ask for a count.';
      return { plan: { matrix: passThrough(inputs) }, byHand: false, figure: formatChannels(inputs), why };
    }
    const wanted = channelCounts.value[0];
    const sheet = bySheet(formatChannels(wanted));
    if (wanted === 1) {
      const { mode, kept, because } = chooseMono(facts);
      const matrix = mode === 'mix' ? meanOfAll(inputs) : keepOne(inputs, kept);
      const figure = mode === 'mix' && inputs === 2 ? 'mix L+R' : figures[mode];
      return { plan: { matrix }, byHand: false, figure, why: `${sheet} ${because}` };
    }
    const matrix = inputs === 1 ? spread(wanted) : spread(wanted).map(() => meanOfAll(inputs)[0]);
    return {
      plan: { matrix },
      byHand: false,
      figure: formatChannels(wanted),
      why: `${sheet} Each gets the same sound.`,
    };
  },
  blocks: ({ matrix }) => ({ push: (channels) => mix(channels, matrix), finish: () => [] }),
};
