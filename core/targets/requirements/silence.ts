import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { formatSeconds } from '../../words/index.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const seconds = (least: number) => v.pipe(v.number(), v.minValue(least), v.maxValue(60));

const schema = v.pipe(
  v.strictObject({
    ...common,
    kind: v.literal('silence'),
    /** Seconds, at least, below -60 dBFS. */
    front: v.optional(inForm(seconds(0.001), { label: 'At the start, at least', unit: 's', usual: 0.5 })),
    back: v.optional(inForm(seconds(0.001), { label: 'At the end, at least', unit: 's' })),
    /** Seconds, at most; 0 for none. */
    mostFront: v.optional(inForm(seconds(0), { label: 'At the start, at most', unit: 's' })),
    mostBack: v.optional(inForm(seconds(0), { label: 'At the end, at most', unit: 's' })),
  }),
  v.check(
    ({ front, back, mostFront, mostBack }) => [front, back, mostFront, mostBack].some((entry) => entry !== undefined),
    'say how much silence there is at the start or the end',
  ),
  v.check(
    ({ front = 0, back = 0, mostFront = 60, mostBack = 60 }) => front <= mostFront && back <= mostBack,
    'the least silence is more than the most',
  ),
);

/** Compressed sound begins to swell a little before it sounds: at most so many seconds, one frame of MP3. */
const PRE_ECHO = 0.03;

const atMost = (most: number, where: string): string =>
  most === 0 ? `none ${where}` : `${formatSeconds(most)} or less ${where}`;

/** Silence at the start, so that a player can lock on, and at the end, or none. What is advised is made as well: it costs nothing but time. */
export const silence: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'silence',
  scope: 'file',
  station: 'ends',
  isOfWhole: true,
  isDoneWhenAdvised: true,
  schema,
  title: 'silence',
  wanted: ({ front, back, mostFront, mostBack }) =>
    [
      ...(front ? [`${formatSeconds(front)} or more at the start`] : []),
      ...(mostFront === undefined ? [] : [atMost(mostFront, 'at the start')]),
      ...(back ? [`${formatSeconds(back)} or more at the end`] : []),
      ...(mostBack === undefined ? [] : [atMost(mostBack, 'at the end')]),
    ].join(', '),
  demands: ({ front = 0, back = 0, mostFront = null, mostBack = null }) => ({
    silence: { front, back, mostFront, mostBack },
  }),
  check({ front = 0, back = 0, mostFront, mostBack }, { facts }) {
    const { leadingSilence, trailingSilence } = facts.measures;
    const isSilent = leadingSilence === facts.frames;
    const slack = facts.bitDepth === null ? PRE_ECHO : 0.5 / facts.sampleRate;
    const before = leadingSilence / facts.sampleRate;
    const behind = isSilent ? before : trailingSilence / facts.sampleRate;
    const tooMuch = [
      ...(before > (mostFront ?? before) + slack ? [`${formatSeconds(before - (mostFront ?? 0))} at the start`] : []),
      ...(behind > (mostBack ?? behind) + slack ? [`${formatSeconds(behind - (mostBack ?? 0))} at the end`] : []),
    ];
    const missing = [
      ...(before < front - slack ? [`${formatSeconds(front - before)} at the start`] : []),
      ...(behind < back - slack ? [`${formatSeconds(back - behind)} at the end`] : []),
    ];
    const found = [
      ...(front || mostFront !== undefined ? [`${formatSeconds(before)} at the start`] : []),
      ...(back || mostBack !== undefined ? [`${formatSeconds(behind)} at the end`] : []),
    ];
    return {
      meets: missing.length + tooMuch.length === 0,
      found: found.join(', '),
      mend: [
        ...(missing.length ? [`add silence: ${missing.join(' and ')}`] : []),
        ...(tooMuch.length ? [`take silence off: ${tooMuch.join(' and ')}`] : []),
      ].join('; '),
    };
  },
};
