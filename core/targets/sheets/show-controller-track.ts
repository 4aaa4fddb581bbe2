import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source: silence at the start lets the player lock on to the stream before anything is heard; no must. How long that takes is from memory. Nothing is known against tags. */
export const showControllerTrack: Target = {
  ...EMPTY_SHEET,
  edition: 4,
  id: 'show-controller-track',
  name: 'Show controller track',
  about: 'Controllers of lights and fountains that play an MP3 along with the show, of one plain kind only.',
  requirements: [
    { key: 'stereo-mode', kind: 'stereo-mode', mode: 'joint' },
    { key: 'silence-advised', kind: 'silence', front: 5, advised: true },
    { key: 'peak-advised', kind: 'peak', goal: -1, advised: true },
  ],
  variants: [
    {
      id: 'older-firmware',
      name: 'older firmware',
      replace: {
        player: { 'plays-bit-rates': { anyOf: [128_000], constant: true } },
      },
      without: [],
      firmware: {},
    },
  ],
  naming: { separator: '-' },
  player: {
    reads: 'header',
    finds: { extensions: ['mp3'], others: 'ignores' },
    order: 'name',
    'plays-containers': { anyOf: ['mp3'] },
    'plays-encodings': { anyOf: ['mp3'], others: 'refuses' },
    'plays-channels': { anyOf: [2], others: 'refuses' },
    'plays-rates': { anyOf: [44_100] },
    'plays-bit-rates': { anyOf: [320_000], constant: true },
    locks: { seconds: 0.5 },
    speaker: { low: 40, high: 16_000 },
  },
  face: { id: 'start-signal', options: { delay: 1 } },
};
