import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source. */
export const i2sAmplifierBoard: Target = {
  ...EMPTY_SHEET,
  edition: 3,
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
          { key: 'sample-rate', kind: 'sample-rate', anyOf: [44_100] },
          { key: 'channels', kind: 'channels', anyOf: [2] },
          { key: 'extension', kind: 'extension', anyOf: ['raw'] },
        ],
        player: { reads: 'bare' },
      },
      without: ['tags'],
    },
  ],
  naming: { separator: '_' },
  player: {
    reads: 'either',
    assumes: { encoding: 'pcm-s16le', sampleRate: 44_100, channels: 2 },
    finds: { extensions: ['wav', 'raw'], others: 'ignores' },
    order: 'name',
    'plays-containers': { anyOf: ['wav'] },
    'extra-chunks': 'plays',
    'plays-encodings': { anyOf: ['pcm-s16le'], others: 'as-if' },
    'plays-channels': { anyOf: [2, 1], others: 'refuses' },
    'plays-rates': { anyOf: [44_100, 22_050] },
    speaker: { low: 100, high: 16_000 },
  },
  face: { id: 'sequence', options: { pause: 1 } },
};
