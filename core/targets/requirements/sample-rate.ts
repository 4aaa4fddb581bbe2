import * as v from 'valibot';
import { formatChoice, formatRate } from '../../audio/index.ts';
import { common, type FileRequirementKind, notStated } from './requirement.ts';

const schema = v.object({
  kind: v.literal('sample-rate'),
  /** Hz, the preferred one first. */
  anyOf: v.pipe(v.array(v.pipe(v.number(), v.integer(), v.minValue(1))), v.minLength(1)),
  ...common,
});

/** The sample rate, one of a set. */
export const sampleRate: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'sample-rate',
  scope: 'file',
  schema,
  title: 'sample rate',
  wanted: ({ anyOf }) => formatChoice(anyOf.map(formatRate)),
  demands: ({ anyOf }) => ({ sampleRates: anyOf }),
  check: ({ anyOf }, { facts }) =>
    facts.certainty === 'assumed'
      ? notStated(formatRate(facts.sampleRate))
      : {
          meets: anyOf.includes(facts.sampleRate),
          found: formatRate(facts.sampleRate),
          mend: `resample it to ${formatRate(anyOf[0])}`,
        },
};
