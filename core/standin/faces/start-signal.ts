import * as v from 'valibot';
import { inForm, within } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const startSignal: FaceKind = {
  id: 'start-signal',
  title: 'Start signal',
  about: 'Arm it, let it lock on, start the show.',
  schema: v.strictObject({
    delay: v.optional(inForm(within({ least: 0, most: 600 }), { label: 'Starts after', unit: 's', usual: 1 })),
  }),
};
