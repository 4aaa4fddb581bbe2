import * as v from 'valibot';
import { inForm, wholeWithin } from '../../forms/index.ts';
import type { FaceKind } from './face.ts';

export const channels: FaceKind = {
  id: 'channels',
  title: 'Channels and events',
  about: 'Turn a knob through the channels, let events happen, let somebody talk.',
  schema: v.strictObject({
    channels: v.optional(inForm(wholeWithin({ least: 1, most: 999 }), { label: 'Channels', usual: 16 })),
  }),
};
