import * as v from 'valibot';
import { within } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const sequence: FaceKind = {
  id: 'sequence',
  title: 'Sequence',
  about: 'Entries one after the other with pauses between, once or for ever: a program.',
  schema: v.strictObject({ pause: v.optional(within({ least: 0, most: 60 })) }),
  fields: [{ key: 'pause', label: 'Pause between', unit: 's', type: 'number' }],
  usual: { pause: 0.5 },
};
