import * as v from 'valibot';
import { inForm, wholeWithin } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const numberKeys: FaceKind = {
  id: 'number-keys',
  title: 'Number keys',
  about: 'Play the sound of a number, the next one, the one before; stop.',
  schema: v.strictObject({
    first: v.optional(inForm(wholeWithin({ least: 0, most: 99_999 }), { label: 'First number', usual: 0 })),
  }),
};
