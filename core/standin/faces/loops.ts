import * as v from 'valibot';
import { BAR_RANGES, inForm, wholeWithin, within } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const loops: FaceKind = {
  id: 'loops',
  title: 'Loops',
  about: 'Slots that change on the bar; how far a loop drifts in each round.',
  schema: v.strictObject({
    slots: v.optional(inForm(wholeWithin({ least: 1, most: 64 }), { label: 'Slots', usual: 8 })),
    tempo: v.optional(inForm(within(BAR_RANGES.tempo), { label: 'Tempo', unit: 'beats a minute', usual: 120 })),
  }),
};
