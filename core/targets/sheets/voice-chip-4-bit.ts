import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source. */
export const voiceChip4Bit: Target = {
  ...EMPTY_SHEET,
  edition: 3,
  id: 'voice-chip-4-bit',
  name: 'Voice chip, 4-bit',
  about: 'Chips that speak from a serial memory: bare 4-bit ADPCM, half a byte for each sample.',
  requirements: [{ key: 'peak-advised', kind: 'peak', goal: -1, advised: true }],
  variants: [
    {
      id: '12-bit',
      name: '12-bit OKI',
      replace: {
        player: { assumes: { encoding: 'oki-adpcm', channels: 1 } },
      },
      without: [],
    },
  ],
  naming: { separator: '_' },
  player: {
    reads: 'bare',
    assumes: { encoding: 'ima-adpcm-low', channels: 1 },
    finds: { extensions: ['bin'], others: 'ignores' },
    order: 'slot',
    'extra-chunks': 'plays',
    'plays-at': 8000,
    speaker: { low: 300, high: 3400 },
  },
  face: { id: 'number-keys', options: { first: 1 } },
};
