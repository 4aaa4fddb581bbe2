import type { FaceKind } from './face.ts';

export const loops: FaceKind = {
  id: 'loops',
  title: 'Loops',
  about: 'Slots that change on the bar; how far a loop drifts in each round.',
  fields: [
    { key: 'slots', label: 'Slots', type: 'number' },
    { key: 'tempo', label: 'Tempo', unit: 'beats a minute', type: 'number' },
  ],
  usual: { slots: 8, tempo: 120 },
};
