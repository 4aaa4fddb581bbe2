import * as v from 'valibot';
import { GOAL_RANGE, inForm, within } from '../../forms/index.ts';
import { toDb } from '../../numbers/index.ts';
import { formatDb, formatLevel } from '../../words/index.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('peak'),
  /** dBFS. */
  goal: inForm(within(GOAL_RANGE), { label: 'Goal', unit: 'dBFS', usual: -1 }),
});

/** dB around the goal that still meet it: coarse encodings move a peak by up to half a level. */
const TOLERANCE = 0.5;

/** The highest sample. */
export const peak: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'peak',
  scope: 'file',
  station: 'level',
  isOfWhole: true,
  isDoneWhenAdvised: true,
  schema,
  isUsuallyAdvised: true,
  title: 'peak',
  wanted: ({ goal }) => formatDb(goal, 'dBFS'),
  demands: ({ goal }) => ({ peakDb: goal }),
  check({ goal }, { facts }) {
    const level = Math.max(...facts.levels.peak);
    const off = goal - toDb(level);
    return {
      meets: Math.abs(off) <= TOLERANCE,
      found: level === 0 ? 'digital silence' : formatLevel(level),
      mend: level === 0 ? 'choose a part that carries sound' : `change the level by ${formatDb(off, 'dB', true)}`,
    };
  },
};
