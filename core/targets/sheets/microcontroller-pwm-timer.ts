import { EMPTY_SHEET, type Target } from '../target.ts';

/** Common practice, no source: a timer of 8 bits on a clock of 16 MHz cannot make 16 000 Hz without a prescaler; 16 MHz / (8 x 125) is exact. */
export const microcontrollerPwmTimer: Target = {
  ...EMPTY_SHEET,
  edition: 3,
  id: 'microcontroller-pwm-timer',
  name: 'Microcontroller, PWM timer',
  about:
    'A small processor that plays from its flash memory by pulse-width modulation: a timer sets the rate, so only rates that its clock divides to are possible.',
  requirements: [
    { key: 'container', kind: 'container', anyOf: ['c-header'] },
    { key: 'encoding', kind: 'encoding', anyOf: ['pcm-u8'] },
    {
      key: 'timer-rate',
      kind: 'timer-rate',
      clock: 16_000_000,
      prescalers: [1, 8, 64, 256, 1024],
      counterBits: 8,
      wanted: 16_000,
    },
    { key: 'channels', kind: 'channels', anyOf: [1] },
    { key: 'peak-advised', kind: 'peak', goal: -1, advised: true },
    { key: 'dc-offset-advised', kind: 'dc-offset', most: -40, advised: true },
    { key: 'extension', kind: 'extension', anyOf: ['h'] },
    { key: 'set-size', kind: 'set-size', most: 65_536 },
  ],
  variants: [
    {
      id: '16-bit-timer',
      name: '16-bit timer',
      replace: {
        requirements: [
          {
            key: 'timer-rate',
            kind: 'timer-rate',
            clock: 16_000_000,
            prescalers: [1, 8, 64, 256, 1024],
            counterBits: 16,
            wanted: 15_625,
          },
        ],
        player: { assumes: { encoding: 'pcm-u8', sampleRate: 15_625, channels: 1 } },
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
      at: [
        { key: 'set-size', pointer: '/most' },
        { key: 'holds', pointer: '/bytes' },
      ],
    },
    {
      id: 'clock',
      question: 'How fast is the clock of the processor?',
      level: 'job',
      usual: 16_000_000,
      at: [{ key: 'timer-rate', pointer: '/clock' }],
    },
  ],
  naming: { separator: '_' },
  player: {
    compiles: { anyOf: ['c-header'] },
    reads: 'bare',
    assumes: { encoding: 'pcm-u8', sampleRate: 16_000, channels: 1 },
    finds: { extensions: ['h'], others: 'ignores' },
    order: 'slot',
    holds: { bytes: 65_536 },
    'extra-chunks': 'plays',
    speaker: { low: 300, high: 8000 },
  },
  face: { id: 'sequence', options: { pause: 0.5 } },
};
