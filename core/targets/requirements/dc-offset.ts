import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { fromDb } from '../../numbers/index.ts';
import { formatLevel } from '../../words/index.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('dc-offset'),
  /** dBFS: the mean of no channel is above. */
  most: inForm(v.pipe(v.number(), v.minValue(-120), v.maxValue(0)), { label: 'At most', unit: 'dBFS', usual: -40 }),
});

/** The mean of the samples: a player that starts on it clicks. */
export const dcOffset: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'dc-offset',
  scope: 'file',
  station: 'level',
  isOfWhole: true,
  isDoneWhenAdvised: true,
  schema,
  isUsuallyAdvised: true,
  title: 'DC offset',
  wanted: ({ most }) => `at most ${formatLevel(fromDb(most))}`,
  demands: () => ({ removeDc: true }),
  check({ most }, { facts }) {
    const found = Math.max(...facts.levels.dcOffset.map(Math.abs));
    return {
      meets: found <= fromDb(most),
      found: found === 0 ? 'none' : formatLevel(found),
      mend: 'remove the DC offset at Level',
    };
  },
};
