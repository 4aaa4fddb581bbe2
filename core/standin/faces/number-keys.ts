import * as v from 'valibot';
import { wholeWithin } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const numberKeys: FaceKind = {
  id: 'number-keys',
  title: 'Number keys',
  about: 'Play the sound of a number, the next one, the one before; stop.',
  schema: v.strictObject({ first: v.optional(wholeWithin({ least: 0, most: 99_999 })) }),
  fields: [{ key: 'first', label: 'First number', type: 'number' }],
  usual: { first: 0 },
};
