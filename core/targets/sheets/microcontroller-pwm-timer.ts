import type { Target } from '../target.ts';

/** Common practice, no source: a timer of 8 bits on a clock of 16 MHz cannot make 16 000 Hz without a prescaler; 16 MHz / (8 x 125) is exact. */
export const microcontrollerPwmTimer: Target = {
  id: 'microcontroller-pwm-timer',
  name: 'Microcontroller, PWM timer',
  about:
    'A small processor that plays from its flash memory by pulse-width modulation: a timer sets the rate, so only rates that its clock divides to are possible.',
  requirements: [
    { kind: 'container', anyOf: ['c-header'] },
    { kind: 'encoding', anyOf: ['pcm-u8'] },
    { kind: 'timer-rate', clock: 16_000_000, prescalers: [1, 8, 64, 256, 1024], counterBits: 8, wanted: 16_000 },
    { kind: 'channels', anyOf: [1] },
    { kind: 'peak', goal: -1, advised: true },
    { kind: 'dc-offset', most: -40, advised: true },
    { kind: 'extension', anyOf: ['h'] },
    { kind: 'set-size', most: 65_536 },
  ],
  variants: [
    {
      id: '16-bit-timer',
      name: '16-bit timer',
      requirements: [
        { kind: 'timer-rate', clock: 16_000_000, prescalers: [1, 8, 64, 256, 1024], counterBits: 16, wanted: 15_625 },
      ],
    },
  ],
  naming: { separator: '_' },
  player: { reads: 'bare', extraChunks: 'plays', order: 'slot', speaker: { low: 300, high: 8000 } },
};
