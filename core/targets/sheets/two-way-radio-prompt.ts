import type { Target } from '../target.ts';

/** Common practice, no source. At 16 000 bytes a second the 56 000 bytes bind before the 4 s do: in effect 3.497 s. */
export const twoWayRadioPrompt: Target = {
  id: 'two-way-radio-prompt',
  name: 'Two-way radio prompt',
  about: 'Handheld radios whose spoken prompts can be replaced: little memory, short sounds.',
  requirements: [
    { kind: 'container', anyOf: ['wav'] },
    { kind: 'encoding', anyOf: ['pcm-s16le'] },
    { kind: 'sample-rate', anyOf: [8000] },
    { kind: 'channels', anyOf: [1] },
    { kind: 'duration', most: 4 },
    { kind: 'duration', most: 3, advised: true },
    { kind: 'file-size', most: 56_000 },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'tags', rule: 'forbidden' },
    { kind: 'extension', anyOf: ['wav'] },
  ],
  naming: { separator: '-' },
  player: { reads: 'header', extraChunks: 'refuses', order: 'name', playsAt: 8000, speaker: { low: 300, high: 3000 } },
};
