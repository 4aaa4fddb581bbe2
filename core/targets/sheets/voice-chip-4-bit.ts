import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source. */
export const voiceChip4Bit: Target = {
  ...EMPTY_SHEET,
  edition: 2,
  id: 'voice-chip-4-bit',
  name: 'Voice chip, 4-bit',
  about: 'Chips that speak from a serial memory: bare 4-bit ADPCM, half a byte for each sample.',
  requirements: [
    { key: 'container', kind: 'container', anyOf: ['headerless'] },
    { key: 'encoding', kind: 'encoding', anyOf: ['ima-adpcm-low'] },
    { key: 'sample-rate', kind: 'sample-rate', anyOf: [8000] },
    { key: 'channels', kind: 'channels', anyOf: [1] },
    { key: 'peak-advised', kind: 'peak', goal: -1, advised: true },
    { key: 'extension', kind: 'extension', anyOf: ['bin'] },
  ],
  variants: [
    {
      id: '12-bit',
      name: '12-bit OKI',
      replace: {
        requirements: [{ key: 'encoding', kind: 'encoding', anyOf: ['oki-adpcm'] }],
        player: { assumes: { encoding: 'oki-adpcm', sampleRate: 8000, channels: 1 } },
      },
      without: [],
    },
  ],
  naming: { separator: '_' },
  player: {
    reads: 'bare',
    assumes: { encoding: 'ima-adpcm-low', sampleRate: 8000, channels: 1 },
    finds: { extensions: ['bin'], others: 'ignores' },
    order: 'slot',
    'extra-chunks': 'plays',
    'plays-at': 8000,
    speaker: { low: 300, high: 3400 },
  },
  face: { id: 'number-keys', options: { first: 1 } },
};
