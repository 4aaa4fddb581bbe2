import type { FaceKind } from './face.ts';

export const pads: FaceKind = {
  id: 'pads',
  title: 'Pads',
  about: 'Hear what is on the stick, put sounds on pads, strike them softly or hard.',
  fields: [{ key: 'pads', label: 'Pads', type: 'number' }],
  usual: { pads: 8 },
};
