import type { FaceKind } from './face.ts';

export const memoryMap: FaceKind = {
  id: 'memory-map',
  title: 'Memory map',
  about: 'Sounds of a fixed memory beside the size of the old ones, played at a note.',
  fields: [{ key: 'root', label: 'Root note', type: 'number' }],
  usual: { root: 60 },
};
