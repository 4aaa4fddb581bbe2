import type { Target } from '../target.ts';

/** Common practice, no source: 16 000 bytes a second, so that 64 KiB of flash hold four seconds. */
export const microcontroller8BitDac: Target = {
  id: 'microcontroller-8-bit-dac',
  name: 'Microcontroller, 8-bit DAC',
  about:
    'A small processor that plays from its flash memory through an 8-bit converter; sounds are constant arrays in its source code.',
  requirements: [
    { kind: 'container', anyOf: ['c-header'] },
    { kind: 'encoding', anyOf: ['pcm-u8'] },
    { kind: 'sample-rate', anyOf: [16_000] },
    { kind: 'channels', anyOf: [1] },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'extension', anyOf: ['h'] },
    { kind: 'set-size', most: 65_536 },
  ],
  variants: [{ id: '8-khz', name: '8 000 Hz', requirements: [{ kind: 'sample-rate', anyOf: [8000] }] }],
  naming: { separator: '_' },
  player: { reads: 'bare', extraChunks: 'plays', order: 'slot', playsAt: 16_000, speaker: { low: 200, high: 8000 } },
};
