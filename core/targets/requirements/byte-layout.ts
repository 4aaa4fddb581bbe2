import * as v from 'valibot';
import { type ByteLayout, findEncoding } from '../../encodings/index.ts';
import { inForm, oneOf } from '../../forms/index.ts';
import { common, type FileRequirementKind, notStated } from './requirement.ts';

const ORDERS = { little: 'little-endian', big: 'big-endian' } as const;
const SIGNS = { signed: 'signed', unsigned: 'unsigned' } as const;
const PACKINGS = { bytes: 'each in its own bytes', packed: 'packed' } as const;

const schema = v.pipe(
  v.strictObject({
    ...common,
    kind: v.literal('byte-layout'),
    order: v.optional(inForm(oneOf(ORDERS), { label: 'Byte order', usual: 'little' })),
    sign: v.optional(inForm(oneOf(SIGNS), { label: 'Sign', usual: 'signed' })),
    /** Samples each in its own bytes, or packed across bytes. */
    packing: v.optional(inForm(oneOf(PACKINGS), { label: 'Packing' })),
  }),
  v.check(
    ({ order, sign, packing }) => Boolean(order || sign || packing),
    'say the byte order, the sign or the packing',
  ),
);

const words = ({ order, sign, packing }: ByteLayout) =>
  [...(sign ? [sign] : []), ...(order ? [ORDERS[order]] : []), ...(packing ? [PACKINGS[packing]] : [])].join(', ') ||
  'the encoding does not say';

/** How the samples of an encoding are laid out in bytes. */
export function byteLayoutOf(id: string): ByteLayout {
  const encoding = findEncoding(id);
  return encoding?.byteLayout ?? { order: null, sign: null, packing: encoding?.kind === 'block' ? 'packed' : 'bytes' };
}

/** True if an encoding is as a layout wants it; what it has no such thing of does not count. */
export function fitsLayout(id: string, { order, sign, packing }: ByteLayout): boolean {
  const has = byteLayoutOf(id);
  return (
    (!order || !has.order || has.order === order) &&
    (!sign || !has.sign || has.sign === sign) &&
    (!packing || has.packing === packing)
  );
}

const wantedOf = ({ order, sign, packing }: v.InferOutput<typeof schema>): ByteLayout => ({
  order: order ?? null,
  sign: sign ?? null,
  packing: packing ?? null,
});

/** Byte order, sign and packing of the samples. */
export const byteLayout: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'byte-layout',
  scope: 'file',
  station: 'wrap',
  schema,
  title: 'byte layout',
  wanted: (requirement) => words(wantedOf(requirement)),
  demands: (requirement) => ({ byteLayout: wantedOf(requirement) }),
  check(requirement, { facts }) {
    const found = words(byteLayoutOf(facts.encoding));
    if (facts.certainty === 'assumed') return notStated(found);
    const wanted = wantedOf(requirement);
    return { meets: fitsLayout(facts.encoding, wanted), found, mend: `write the samples ${words(wanted)}` };
  },
};
