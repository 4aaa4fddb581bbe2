import * as v from 'valibot';
import { within } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const hold: FaceKind = {
  id: 'hold',
  title: 'On hold',
  about: 'An extension that plays it to a caller, again and again.',
  schema: v.strictObject({ pause: v.optional(within({ least: 0, most: 3600 })) }),
  fields: [{ key: 'pause', label: 'Pause between', unit: 's', type: 'number' }],
  usual: { pause: 0 },
};
