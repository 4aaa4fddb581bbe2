import * as v from 'valibot';
import { inForm, within } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const toneList: FaceKind = {
  id: 'list',
  title: 'List',
  about: 'Go through the entries, hear one, choose one as the current tone, let it ring.',
  schema: v.strictObject({
    rings: v.optional(inForm(within({ least: 0, most: 3600 }), { label: 'Rings for', unit: 's', usual: 20 })),
  }),
};
