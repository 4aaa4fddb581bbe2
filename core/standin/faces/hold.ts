import type { FaceKind } from './face.ts';

export const hold: FaceKind = {
  id: 'hold',
  title: 'On hold',
  about: 'An extension that plays it to a caller, again and again.',
  fields: [{ key: 'pause', label: 'Pause between', unit: 's', type: 'number' }],
  usual: { pause: 0 },
};
