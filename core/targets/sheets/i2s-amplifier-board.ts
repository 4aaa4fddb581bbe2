import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source. */
export const i2sAmplifierBoard: Target = {
  ...EMPTY_SHEET,
  edition: 2,
  id: 'i2s-amplifier-board',
  name: 'I2S amplifier board',
  about: 'A processor with a digital amplifier that plays 16-bit samples from a card, with or without a header.',
  requirements: [
    { key: 'container', kind: 'container', anyOf: ['wav', 'headerless'] },
    { key: 'encoding', kind: 'encoding', anyOf: ['pcm-s16le'] },
    { key: 'sample-rate', kind: 'sample-rate', anyOf: [44_100, 22_050] },
    { key: 'channels', kind: 'channels', anyOf: [2, 1] },
    { key: 'peak-advised', kind: 'peak', goal: -1, advised: true },
    { key: 'tags', kind: 'tags', rule: 'forbidden' },
    { key: 'extension', kind: 'extension', anyOf: ['wav', 'raw'] },
  ],
  variants: [
    {
      id: 'headerless',
      name: 'headerless',
      replace: {
        requirements: [
          { key: 'container', kind: 'container', anyOf: ['headerless'] },
          { key: 'extension', kind: 'extension', anyOf: ['raw'] },
        ],
        player: { reads: 'bare' },
      },
      without: ['tags'],
    },
  ],
  naming: { separator: '_' },
  player: { reads: 'header', 'extra-chunks': 'plays', order: 'name', speaker: { low: 100, high: 16_000 } },
};
