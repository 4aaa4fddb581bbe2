import type { Target } from '../target.ts';

/** Common practice, no source. */
export const voiceChip4Bit: Target = {
  id: 'voice-chip-4-bit',
  name: 'Voice chip, 4-bit',
  about: 'Chips that speak from a serial memory: bare 4-bit ADPCM, half a byte for each sample.',
  requirements: [
    { kind: 'container', anyOf: ['headerless'] },
    { kind: 'encoding', anyOf: ['ima-adpcm-low'] },
    { kind: 'sample-rate', anyOf: [8000] },
    { kind: 'channels', anyOf: [1] },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'extension', anyOf: ['bin'] },
  ],
  variants: [{ id: '12-bit', name: '12-bit OKI', requirements: [{ kind: 'encoding', anyOf: ['oki-adpcm'] }] }],
  naming: { separator: '_' },
  player: {
    reads: 'bare',
    extraChunks: 'plays',
    order: 'slot',
    playsAt: 8000,
    speaker: { low: 300, high: 3400 },
  },
};
