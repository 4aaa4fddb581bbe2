import type { Target } from '../target.ts';

/** Common practice, no source. */
export const i2sAmplifierBoard: Target = {
  id: 'i2s-amplifier-board',
  name: 'I2S amplifier board',
  about: 'A processor with a digital amplifier that plays 16-bit samples from a card, with or without a header.',
  requirements: [
    { kind: 'container', anyOf: ['wav', 'headerless'] },
    { kind: 'encoding', anyOf: ['pcm-s16le'] },
    { kind: 'sample-rate', anyOf: [44_100, 22_050] },
    { kind: 'channels', anyOf: [2, 1] },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'extension', anyOf: ['wav', 'raw'] },
  ],
  variants: [
    {
      id: 'headerless',
      name: 'headerless',
      requirements: [
        { kind: 'container', anyOf: ['headerless'] },
        { kind: 'extension', anyOf: ['raw'] },
      ],
    },
  ],
  naming: { separator: '_' },
  player: { reads: 'header', extraChunks: 'plays', order: 'name', speaker: { low: 100, high: 16_000 } },
};
