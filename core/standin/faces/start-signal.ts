import type { FaceKind } from './face.ts';

export const startSignal: FaceKind = {
  id: 'start-signal',
  title: 'Start signal',
  about: 'Arm it, let it lock on, start the show.',
  fields: [{ key: 'delay', label: 'Starts after', unit: 's', type: 'number' }],
  usual: { delay: 1 },
};
