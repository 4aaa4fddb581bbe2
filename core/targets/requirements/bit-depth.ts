import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { formatChoice } from '../../words/index.ts';
import { common, type FileRequirementKind, notStated } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('bit-depth'),
  /** Bits, the preferred one first. */
  anyOf: inForm(v.pipe(v.array(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(64))), v.minLength(1)), {
    label: 'One of',
    unit: 'bit',
    usual: [16],
  }),
});

const words = (bits: readonly number[]) => formatChoice(bits.map((count) => `${count} bit`));

/** Bits of a sample. */
export const bitDepth: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'bit-depth',
  scope: 'file',
  station: 'depth',
  schema,
  title: 'bit depth',
  wanted: ({ anyOf }) => words(anyOf),
  demands: ({ anyOf }) => ({ bitDepths: anyOf }),
  check({ anyOf }, { facts }) {
    if (facts.bitDepth === null) {
      return { meets: false, found: 'no fixed depth', mend: `write it as PCM of ${words(anyOf)}` };
    }
    const found = `${facts.bitDepth} bit`;
    if (facts.certainty === 'assumed') return notStated(found);
    return { meets: anyOf.includes(facts.bitDepth), found, mend: `write it with ${words(anyOf)}` };
  },
};
