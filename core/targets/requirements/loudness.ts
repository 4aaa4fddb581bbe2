import * as v from 'valibot';
import { GOAL_RANGE, inForm, within } from '../../forms/index.ts';
import { formatDb } from '../../words/index.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('loudness'),
  /** LUFS, integrated. */
  goal: inForm(within(GOAL_RANGE), { label: 'Goal', unit: 'LUFS', usual: -16 }),
  /** LU that it may be off. */
  tolerance: v.optional(
    inForm(v.pipe(v.number(), v.minValue(0.1), v.maxValue(20)), { label: 'Tolerance', unit: 'LU', usual: 1 }),
  ),
});

const USUAL_TOLERANCE = 1;

/** How loud the whole sounds (ITU-R BS.1770). */
export const loudness: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'loudness',
  scope: 'file',
  station: 'level',
  isOfWhole: true,
  isDoneWhenAdvised: true,
  schema,
  isUsuallyAdvised: true,
  title: 'loudness',
  wanted: ({ goal, tolerance = USUAL_TOLERANCE }) => `${formatDb(goal, 'LUFS')} \u00b1 ${formatDb(tolerance, 'LU')}`,
  demands: ({ goal }) => ({ loudness: goal }),
  check({ goal, tolerance = USUAL_TOLERANCE }, { facts: { measures } }) {
    if (measures.loudness === null) return { meets: null, found: 'silence has none' };
    const off = goal - measures.loudness;
    return {
      meets: Math.abs(off) <= tolerance,
      found: formatDb(measures.loudness, 'LUFS'),
      mend: `change the level by ${formatDb(off, 'dB', true)}`,
    };
  },
};
