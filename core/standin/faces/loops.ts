import * as v from 'valibot';
import { BAR_RANGES, wholeWithin, within } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const loops: FaceKind = {
  id: 'loops',
  title: 'Loops',
  about: 'Slots that change on the bar; how far a loop drifts in each round.',
  schema: v.strictObject({
    slots: v.optional(wholeWithin({ least: 1, most: 64 })),
    tempo: v.optional(within(BAR_RANGES.tempo)),
  }),
  fields: [
    { key: 'slots', label: 'Slots', type: 'number' },
    { key: 'tempo', label: 'Tempo', unit: 'beats a minute', type: 'number' },
  ],
  usual: { slots: 8, tempo: 120 },
};
