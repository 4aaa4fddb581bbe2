import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source: a timer of 8 bits on a clock of 16 MHz cannot make 16 000 Hz without a prescaler; 16 MHz / (8 x 125) is exact. */
export const microcontrollerPwmTimer: Target = {
  ...EMPTY_SHEET,
  edition: 4,
  id: 'microcontroller-pwm-timer',
  name: 'Microcontroller, PWM timer',
  about:
    'A small processor that plays from its flash memory by pulse-width modulation: a timer sets the rate, so only rates that its clock divides to are possible.',
  requirements: [
    { key: 'peak-advised', kind: 'peak', goal: -1, advised: true },
    { key: 'dc-offset-advised', kind: 'dc-offset', most: -40, advised: true },
  ],
  variants: [
    {
      id: '16-bit-timer',
      name: '16-bit timer',
      replace: {
        player: { timer: { clock: 16_000_000, prescalers: [1, 8, 64, 256, 1024], counterBits: 16, wanted: 15_625 } },
      },
      without: [],
    },
  ],
  blanks: [
    {
      id: 'flash',
      question: 'How much memory is there for all sounds?',
      level: 'job',
      usual: 65_536,
      at: [{ key: 'holds', pointer: '/bytes' }],
    },
    {
      id: 'clock',
      question: 'How fast is the clock of the processor?',
      level: 'job',
      usual: 16_000_000,
      at: [{ key: 'timer', pointer: '/clock' }],
    },
  ],
  naming: { separator: '_' },
  player: {
    compiles: { anyOf: ['c-header'] },
    reads: 'bare',
    assumes: { encoding: 'pcm-u8', channels: 1 },
    finds: { extensions: ['h'], others: 'ignores' },
    order: 'slot',
    holds: { bytes: 65_536 },
    'extra-chunks': 'plays',
    timer: { clock: 16_000_000, prescalers: [1, 8, 64, 256, 1024], counterBits: 8, wanted: 16_000 },
    speaker: { low: 300, high: 8000 },
  },
  face: { id: 'sequence', options: { pause: 0.5 } },
};
