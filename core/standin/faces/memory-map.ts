import * as v from 'valibot';
import { inForm, wholeWithin } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const memoryMap: FaceKind = {
  id: 'memory-map',
  title: 'Memory map',
  about: 'Sounds of a fixed memory beside the size of the old ones, played at a note.',
  // Two octaves on either side are notes of MIDI 1.0: 0 to 127.
  schema: v.strictObject({
    root: v.optional(inForm(wholeWithin({ least: 24, most: 103 }), { label: 'Root note', usual: 60 })),
  }),
};
