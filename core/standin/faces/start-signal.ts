import * as v from 'valibot';
import { within } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const startSignal: FaceKind = {
  id: 'start-signal',
  title: 'Start signal',
  about: 'Arm it, let it lock on, start the show.',
  schema: v.strictObject({ delay: v.optional(within({ least: 0, most: 600 })) }),
  fields: [{ key: 'delay', label: 'Starts after', unit: 's', type: 'number' }],
  usual: { delay: 1 },
};
