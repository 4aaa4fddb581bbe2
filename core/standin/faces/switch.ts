import type { FaceKind } from './face.ts';

export const switchPositions: FaceKind = {
  id: 'switch',
  title: 'Switch positions',
  about: 'Put a sound on each position of a switch; language, quiet mode, repeat.',
  fields: [
    { key: 'positions', label: 'Positions', type: 'number' },
    { key: 'repeats', label: 'Repeats after', unit: 's', type: 'number' },
  ],
  usual: { positions: 6, repeats: 10 },
};
