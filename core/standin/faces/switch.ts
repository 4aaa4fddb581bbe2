import * as v from 'valibot';
import { inForm, wholeWithin, within } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const switchPositions: FaceKind = {
  id: 'switch',
  title: 'Switch positions',
  about: 'Put a sound on each position of a switch; language, quiet mode, repeat.',
  schema: v.strictObject({
    positions: v.optional(inForm(wholeWithin({ least: 1, most: 24 }), { label: 'Positions', usual: 6 })),
    repeats: v.optional(inForm(within({ least: 0, most: 3600 }), { label: 'Repeats after', unit: 's', usual: 10 })),
  }),
};
