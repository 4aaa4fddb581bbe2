import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { formatSeconds } from '../../words/index.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const seconds = v.pipe(v.number(), v.minValue(0.001), v.maxValue(60));

const schema = v.pipe(
  v.strictObject({
    ...common,
    kind: v.literal('silence'),
    /** Seconds, at least, below -60 dBFS. */
    front: v.optional(inForm(seconds, { label: 'At the start', unit: 's', usual: 0.5 })),
    back: v.optional(inForm(seconds, { label: 'At the end', unit: 's' })),
  }),
  v.check(({ front, back }) => Boolean(front || back), 'say how much silence there is at the start or the end'),
);

/** Compressed sound begins to swell a little before it sounds: at most so many seconds, one frame of MP3. */
const PRE_ECHO = 0.03;

/** Silence at the start, so that a player can lock on, and at the end. What is advised is made as well: it costs nothing but time. */
export const silence: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'silence',
  scope: 'file',
  station: 'ends',
  isOfWhole: true,
  isDoneWhenAdvised: true,
  schema,
  title: 'silence',
  wanted: ({ front, back }) =>
    [
      ...(front ? [`${formatSeconds(front)} or more at the start`] : []),
      ...(back ? [`${formatSeconds(back)} or more at the end`] : []),
    ].join(', '),
  demands: ({ front, back }) => ({ silence: { front: front ?? 0, back: back ?? 0 } }),
  check({ front = 0, back = 0 }, { facts }) {
    const { leadingSilence, trailingSilence } = facts.measures;
    const isSilent = leadingSilence === facts.frames;
    const slack = facts.bitDepth === null ? PRE_ECHO : 0.5 / facts.sampleRate;
    const before = leadingSilence / facts.sampleRate;
    const behind = isSilent ? before : trailingSilence / facts.sampleRate;
    const missing = [
      ...(before < front - slack ? [`${formatSeconds(front - before)} at the start`] : []),
      ...(behind < back - slack ? [`${formatSeconds(back - behind)} at the end`] : []),
    ];
    const found = [
      ...(front ? [`${formatSeconds(before)} at the start`] : []),
      ...(back ? [`${formatSeconds(behind)} at the end`] : []),
    ];
    return {
      meets: missing.length === 0,
      found: found.join(', '),
      mend: `add silence: ${missing.join(' and ')}`,
    };
  },
};
