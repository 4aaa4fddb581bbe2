import type { Element } from './elements.ts';
import { ARRAY_OPTIONS } from './options.ts';
import { textContainer } from './text-form.ts';

const WHOLE = { 1: '.byte', 2: '.2byte', 4: '.4byte' } as const;
const FLOATS = { 4: '.float', 8: '.double' } as const;

const directiveOf = (element: Element): string => (element.isFloat ? FLOATS[element.bytes] : WHOLE[element.bytes]);

/** Numbers for an assembler, with a label before and after them (directives that many assemblers share). */
export const assembler = textContainer({
  id: 'assembler',
  title: 'assembler source',
  options: ARRAY_OPTIONS,
  extensions: ['s', 'asm', 'inc'],
  // The one comment that GNU's assembler has for every processor.
  comment: ['/* ', ' */'],
  older: { comment: '; ', closing: ';' },
  before: ({ name, sampleRate, channels, options }) => [
    ...(options.constants ? [`.equ ${name}_sample_rate, ${sampleRate}`, `.equ ${name}_channels, ${channels}`] : []),
    `.global ${name}`,
    `.global ${name}_end`,
    `${name}:`,
  ],
  line: (element) => ({ prefix: `  ${directiveOf(element)} `, end: '' }),
  lastEnd: '',
  after: ({ name }) => ['/* end */', `${name}_end:`],
  opening: /\n\w+:\n/,
  closing: '/',
  states: { sampleRate: /_sample_rate, (\d+)/ },
});
