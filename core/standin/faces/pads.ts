import * as v from 'valibot';
import { wholeWithin } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const pads: FaceKind = {
  id: 'pads',
  title: 'Pads',
  about: 'Hear what is on the stick, put sounds on pads, strike them softly or hard.',
  schema: v.strictObject({ pads: v.optional(wholeWithin({ least: 1, most: 64 })) }),
  fields: [{ key: 'pads', label: 'Pads', type: 'number' }],
  usual: { pads: 8 },
};
