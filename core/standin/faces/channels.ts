import type { FaceKind } from './face.ts';

export const channels: FaceKind = {
  id: 'channels',
  title: 'Channels and events',
  about: 'Turn a knob through the channels, let events happen, let somebody talk.',
  fields: [{ key: 'channels', label: 'Channels', type: 'number' }],
  usual: { channels: 16 },
};
