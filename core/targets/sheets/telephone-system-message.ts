import type { Target } from '../target.ts';

/** Common practice, no source. */
export const telephoneSystemMessage: Target = {
  id: 'telephone-system-message',
  name: 'Telephone system message',
  about: 'Telephone exchanges and answering systems that play announcements, menus and music on hold.',
  requirements: [
    { kind: 'container', anyOf: ['wav'] },
    { kind: 'encoding', anyOf: ['pcm-s16le'] },
    { kind: 'sample-rate', anyOf: [8000] },
    { kind: 'channels', anyOf: [1] },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'extension', anyOf: ['wav'] },
    { kind: 'name', plain: true, notDigitsOnly: true },
  ],
  variants: [
    { id: 'a-law', name: 'A-law', requirements: [{ kind: 'encoding', anyOf: ['a-law'] }] },
    { id: 'mu-law', name: 'mu-law', requirements: [{ kind: 'encoding', anyOf: ['mu-law'] }] },
  ],
  naming: { separator: '-' },
  player: { reads: 'header', extraChunks: 'skips', order: 'name', speaker: { low: 300, high: 3400 } },
};
