import type { FaceKind } from './face.ts';

export const numberKeys: FaceKind = {
  id: 'number-keys',
  title: 'Number keys',
  about: 'Play the sound of a number, the next one, the one before; stop.',
  fields: [{ key: 'first', label: 'First number', type: 'number' }],
  usual: { first: 0 },
};
