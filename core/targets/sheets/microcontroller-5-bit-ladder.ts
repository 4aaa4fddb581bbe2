import type { Target } from '../target.ts';

/** Common practice, no source: a ladder of resistors on five pins makes 32 levels, 0 to 31. */
export const microcontroller5BitLadder: Target = {
  id: 'microcontroller-5-bit-ladder',
  name: 'Microcontroller, 5-bit ladder',
  about:
    'A small processor that plays from its flash memory through a ladder of resistors on five pins; sounds are constant arrays in its source code.',
  requirements: [
    { kind: 'container', anyOf: ['c-source'] },
    { kind: 'encoding', anyOf: ['pcm-u5'] },
    { kind: 'sample-rate', anyOf: [16_000] },
    { kind: 'channels', anyOf: [1] },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'extension', anyOf: ['c'] },
    { kind: 'set-size', most: 65_536 },
  ],
  variants: [{ id: 'packed', name: 'packed', requirements: [{ kind: 'encoding', anyOf: ['pcm-u5-packed'] }] }],
  naming: { separator: '_' },
  listFile: {
    name: 'sounds.h',
    header: '#ifndef SOUNDS_H\n#define SOUNDS_H\n\n#include <stdint.h>\n',
    row: '/* {displayName}: {frames} frames at {sampleRate} Hz. */\nextern const uint8_t {identifier}[{soundBytes}];',
    footer: '\n#endif',
  },
  player: { reads: 'bare', extraChunks: 'plays', order: 'slot', playsAt: 16_000, speaker: { low: 200, high: 8000 } },
};
