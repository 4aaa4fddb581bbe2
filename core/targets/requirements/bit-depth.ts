import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { formatChoice } from '../../words/index.ts';
import { common, type FileRequirementKind, notStated } from './requirement.ts';

const bits = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(64));

const schema = v.pipe(
  v.strictObject({
    ...common,
    kind: v.literal('bit-depth'),
    /** Bits, the preferred one first. */
    anyOf: v.optional(inForm(v.pipe(v.array(bits), v.minLength(1)), { label: 'One of', unit: 'bit', usual: [16] })),
    /** Or any depth between these. */
    least: v.optional(inForm(bits, { label: 'Or at least', unit: 'bit' })),
    most: v.optional(inForm(bits, { label: 'and at most', unit: 'bit' })),
  }),
  v.check(
    ({ anyOf, least, most }) => (anyOf === undefined) !== (least === undefined && most === undefined),
    'a depth is either one of several, or between a lowest and a highest',
  ),
  v.check(({ least, most }) => !(least && most && least > most), 'the lowest depth is above the highest'),
);

type Depths = v.InferOutput<typeof schema>;

/** Depths that sounds have (common practice, no source), the usual one first. */
const DEPTHS = [16, 24, 8, 32, 20, 12, 64];

const depthsOf = ({ anyOf, least = 0, most = Number.POSITIVE_INFINITY }: Depths): readonly number[] =>
  anyOf ?? DEPTHS.filter((depth) => depth >= least && depth <= most);

const words = ({ anyOf, least, most }: Depths): string => {
  if (anyOf) return formatChoice(anyOf.map((count) => `${count} bit`));
  if (least !== undefined && most !== undefined) return `${least} to ${most} bit`;
  return least === undefined ? `${most} bit or less` : `${least} bit or more`;
};

/** Bits of a sample: one of several, or a range. */
export const bitDepth: FileRequirementKind<Depths> = {
  kind: 'bit-depth',
  scope: 'file',
  station: 'depth',
  schema,
  title: 'bit depth',
  wanted: words,
  demands: (wanted) => ({ bitDepths: depthsOf(wanted) }),
  check(wanted, { facts }) {
    const { anyOf, least = 0, most = Number.POSITIVE_INFINITY } = wanted;
    const { bitDepth: depth } = facts;
    if (depth === null) return { meets: false, found: 'no fixed depth', mend: `write it as PCM of ${words(wanted)}` };
    const found = `${depth} bit`;
    if (facts.certainty === 'assumed') return notStated(found);
    const meets = anyOf ? anyOf.includes(depth) : depth >= least && depth <= most;
    return { meets, found, mend: `write it with ${words(wanted)}` };
  },
};
