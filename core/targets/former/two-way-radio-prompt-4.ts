import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source. At 16 000 bytes a second the 56 000 bytes bind before the 4 s do: in effect 3.497 s. */
export const twoWayRadioPromptE4: Target = {
  ...EMPTY_SHEET,
  edition: 4,
  id: 'two-way-radio-prompt',
  name: 'Two-way radio prompt',
  about: 'Handheld radios whose spoken prompts can be replaced: little memory, short sounds.',
  requirements: [
    { key: 'duration-advised', kind: 'duration', most: 3, advised: true },
    { key: 'peak-advised', kind: 'peak', goal: -1, advised: true },
  ],
  blanks: [
    {
      id: 'seconds',
      question: 'How long may a prompt be?',
      level: 'job',
      usual: 4,
      at: [{ key: 'longest-sound', pointer: '/seconds' }],
    },
  ],
  naming: { separator: '-' },
  // Behind the channels, what happens to a radio.
  places: { words: ['channel'], first: 1, labels: { 17: 'switched on', 18: 'battery low', 19: 'out of reach' } },
  player: {
    reads: 'header',
    finds: { extensions: ['wav'], others: 'ignores' },
    order: 'name',
    'plays-containers': { anyOf: ['wav'] },
    'extra-chunks': 'refuses',
    'plays-encodings': { anyOf: ['pcm-s16le'], others: 'refuses' },
    'plays-channels': { anyOf: [1], others: 'refuses' },
    'plays-at': 8000,
    'longest-sound': { seconds: 4, bytes: 56_000, beyond: 'refuses' },
    priority: 'calls',
    speaker: { low: 300, high: 3000 },
  },
  face: { id: 'channels', options: { channels: 16 } },
};
