import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source. */
export const i2sAmplifierBoard: Target = {
  ...EMPTY_SHEET,
  edition: 4,
  id: 'i2s-amplifier-board',
  name: 'I2S amplifier board',
  about: 'A processor with a digital amplifier that plays 16-bit samples from a card, with or without a header.',
  requirements: [{ key: 'peak-advised', kind: 'peak', goal: -1, advised: true }],
  variants: [
    {
      id: 'headerless',
      name: 'headerless',
      replace: {
        player: { reads: 'bare', finds: { extensions: ['raw'], others: 'ignores' } },
      },
      without: [],
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
