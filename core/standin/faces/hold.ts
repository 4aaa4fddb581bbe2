import * as v from 'valibot';
import { inForm, within } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const hold: FaceKind = {
  id: 'hold',
  title: 'On hold',
  about: 'An extension that plays it to a caller, again and again.',
  schema: v.strictObject({
    pause: v.optional(inForm(within({ least: 0, most: 3600 }), { label: 'Pause between', unit: 's', usual: 0 })),
  }),
};
