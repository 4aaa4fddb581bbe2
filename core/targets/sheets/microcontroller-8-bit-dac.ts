import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source: 16 000 bytes a second, so that 64 KiB of flash hold four seconds. */
export const microcontroller8BitDac: Target = {
  ...EMPTY_SHEET,
  edition: 6,
  id: 'microcontroller-8-bit-dac',
  name: 'Microcontroller, 8-bit DAC',
  about:
    'A small processor that plays from its flash memory through an 8-bit converter; sounds are constant arrays in its source code.',
  requirements: [{ key: 'peak-advised', kind: 'peak', goal: -1, advised: true }],
  variants: [
    {
      id: '8-khz',
      name: '8 000 Hz',
      replace: {
        player: { 'plays-at': 8000 },
      },
      without: [],
    },
    {
      id: 'whole-wav',
      name: 'whole WAV in the array',
      replace: {
        requirements: [{ key: 'tags', kind: 'tags', rule: 'forbidden' }],
        player: {
          reads: 'header',
          'plays-containers': { anyOf: ['wav'] },
          'plays-encodings': { anyOf: ['pcm-u8'], others: 'refuses' },
          'plays-channels': { anyOf: [1], others: 'refuses' },
          'extra-chunks': 'skips',
        },
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
  player: {
    compiles: { anyOf: ['c-header'] },
    reads: 'bare',
    assumes: { encoding: 'pcm-u8', channels: 1 },
    finds: { extensions: ['h'], others: 'ignores' },
    order: 'slot',
    holds: { bytes: 65_536 },
    'extra-chunks': 'plays',
    'plays-at': 16_000,
    speaker: { low: 200, high: 8000 },
  },
  face: { id: 'sequence', options: { pause: 0.5 } },
};
