import * as v from 'valibot';
import { inForm, within } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const sequence: FaceKind = {
  id: 'sequence',
  title: 'Sequence',
  about: 'Entries one after the other with pauses between, once or for ever: a program.',
  schema: v.strictObject({
    pause: v.optional(inForm(within({ least: 0, most: 60 }), { label: 'Pause between', unit: 's', usual: 0.5 })),
  }),
};
