import * as v from 'valibot';
import { GOAL_RANGE, inForm, within } from '../../forms/index.ts';
import { toDb } from '../../numbers/index.ts';
import { formatDb, formatLevel } from '../../words/index.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const schema = v.pipe(
  v.strictObject({
    ...common,
    kind: v.literal('peak'),
    /** dBFS that it reaches. */
    goal: v.optional(inForm(within(GOAL_RANGE), { label: 'Goal', unit: 'dB', usual: -1 })),
    /** dBFS that it does not exceed, however far below it is. */
    most: v.optional(inForm(within(GOAL_RANGE), { label: 'Or not above', unit: 'dB' })),
    /** True: of the curve through the samples (dBTP, ITU-R BS.1770-5, annex 2), not of the samples. */
    isTrue: v.optional(inForm(v.boolean(), { label: 'Between the samples too (true peak)' })),
  }),
  v.check(
    ({ goal, most }) => (goal === undefined) !== (most === undefined),
    'a peak is either a goal, or not above a level',
  ),
);

/** dB around the goal that still meet it: coarse encodings move a peak by up to half a level. */
const TOLERANCE = 0.5;
/** dB by which a compressed sound may exceed what it was encoded from; samples do not exceed it by more than is written. */
const OVERSHOOT = { compressed: 0.5, samples: 0.05 };

const unit = (isTrue: boolean | undefined) => (isTrue ? 'dBTP' : 'dBFS');

/** The highest sample, or the highest point of the curve through the samples. */
export const peak: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'peak',
  scope: 'file',
  station: 'level',
  isOfWhole: true,
  isDoneWhenAdvised: true,
  schema,
  isUsuallyAdvised: true,
  title: 'peak',
  wanted: ({ goal, most = 0, isTrue }) =>
    goal === undefined ? `not above ${formatDb(most, unit(isTrue))}` : formatDb(goal, unit(isTrue)),
  demands: ({ goal, most, isTrue = false }) => ({
    ...(goal === undefined ? {} : isTrue ? { truePeakDb: goal } : { peakDb: goal }),
    ...(most === undefined ? {} : { peakMost: { db: most, isTrue } }),
  }),
  check({ goal, most = 0, isTrue }, { facts }) {
    const level = isTrue ? facts.measures.truePeak : Math.max(...facts.levels.peak);
    const found = level === 0 ? 'digital silence' : isTrue ? formatDb(toDb(level), 'dBTP') : formatLevel(level);
    if (goal === undefined) {
      const slack = facts.bitDepth === null ? OVERSHOOT.compressed : OVERSHOOT.samples;
      const over = toDb(level) - most;
      return { meets: level === 0 || over <= slack, found, mend: `lower the level by ${formatDb(over, 'dB')}` };
    }
    const off = goal - toDb(level);
    return {
      meets: Math.abs(off) <= TOLERANCE,
      found,
      mend: level === 0 ? 'choose a part that carries sound' : `change the level by ${formatDb(off, 'dB', true)}`,
    };
  },
};
