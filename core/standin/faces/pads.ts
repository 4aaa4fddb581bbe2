import * as v from 'valibot';
import { inForm, wholeWithin } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const pads: FaceKind = {
  id: 'pads',
  title: 'Pads',
  about: 'Hear what is on the stick, put sounds on pads, strike them softly or hard.',
  schema: v.strictObject({
    pads: v.optional(inForm(wholeWithin({ least: 1, most: 64 }), { label: 'Pads', usual: 8 })),
  }),
};
