import * as v from 'valibot';
import { within } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const toneList: FaceKind = {
  id: 'list',
  title: 'List',
  about: 'Go through the entries, hear one, choose one as the current tone, let it ring.',
  schema: v.strictObject({ rings: v.optional(within({ least: 0, most: 3600 })) }),
  fields: [{ key: 'rings', label: 'Rings for', unit: 's', type: 'number' }],
  usual: { rings: 20 },
};
