import { textContainer } from './text-form.ts';

/** Bytes for an assembler, with a label before and behind them (directives that many assemblers share). */
export const assembler = textContainer({
  id: 'assembler',
  title: 'assembler source',
  extensions: ['s', 'asm', 'inc'],
  onlyBytes: true,
  comment: ['; ', ''],
  before: ({ name, sampleRate, channels, options }) => [
    ...(options.constants ? [`.equ ${name}_sample_rate, ${sampleRate}`, `.equ ${name}_channels, ${channels}`] : []),
    `.global ${name}`,
    `.global ${name}_end`,
    `${name}:`,
  ],
  line: { prefix: '  .byte ', end: '' },
  lastEnd: '',
  after: ({ name }) => ['; end', `${name}_end:`],
  opening: /\n\w+:\n/,
  closing: ';',
  states: { sampleRate: /_sample_rate, (\d+)/ },
});
