import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source: a ladder of resistors on five pins makes 32 levels, 0 to 31. */
export const microcontroller5BitLadder: Target = {
  ...EMPTY_SHEET,
  edition: 4,
  id: 'microcontroller-5-bit-ladder',
  name: 'Microcontroller, 5-bit ladder',
  about:
    'A small processor that plays from its flash memory through a ladder of resistors on five pins; sounds are constant arrays in its source code.',
  requirements: [{ key: 'peak-advised', kind: 'peak', goal: -1, advised: true }],
  variants: [
    {
      id: 'packed',
      name: 'packed',
      replace: {
        player: { assumes: { encoding: 'pcm-u5-packed', channels: 1 } },
      },
      without: [],
    },
  ],
  blanks: [
    {
      id: 'flash',
      question: 'How much memory is there for all sounds?',
      level: 'job',
      usual: 65_536,
      at: [{ key: 'holds', pointer: '/bytes' }],
    },
  ],
  naming: { separator: '_' },
  lists: [
    {
      key: 'list',
      path: 'sounds.h',
      text: 'utf-8',
      lineEnd: '\n',
      escape: 'none',
      header: '#ifndef SOUNDS_H\n#define SOUNDS_H\n\n#include <stdint.h>\n',
      row: '/* {displayName}: {frames} frames at {sampleRate} Hz. */\nextern const uint8_t {identifier}[{soundBytes}];',
      footer: '\n#endif',
      per: 'file',
    },
  ],
  player: {
    compiles: { anyOf: ['c-source'] },
    reads: 'bare',
    assumes: { encoding: 'pcm-u5', channels: 1 },
    finds: { extensions: ['c'], others: 'ignores' },
    order: 'slot',
    holds: { bytes: 65_536 },
    'extra-chunks': 'plays',
    'plays-at': 16_000,
    speaker: { low: 200, high: 8000 },
  },
  face: { id: 'sequence', options: { pause: 0.5 } },
};
