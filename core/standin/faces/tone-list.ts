import type { FaceKind } from './face.ts';

export const toneList: FaceKind = {
  id: 'list',
  title: 'List',
  about: 'Go through the entries, hear one, choose one as the current tone, let it ring.',
  fields: [{ key: 'rings', label: 'Rings for', unit: 's', type: 'number' }],
  usual: { rings: 20 },
};
