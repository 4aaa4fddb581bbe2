import * as v from 'valibot';
import { wholeWithin, within } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const switchPositions: FaceKind = {
  id: 'switch',
  title: 'Switch positions',
  about: 'Put a sound on each position of a switch; language, quiet mode, repeat.',
  schema: v.strictObject({
    positions: v.optional(wholeWithin({ least: 1, most: 24 })),
    repeats: v.optional(within({ least: 0, most: 3600 })),
  }),
  fields: [
    { key: 'positions', label: 'Positions', type: 'number' },
    { key: 'repeats', label: 'Repeats after', unit: 's', type: 'number' },
  ],
  usual: { positions: 6, repeats: 10 },
};
