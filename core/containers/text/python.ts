import type { Element } from './elements.ts';
import { KEYWORDS } from './keywords.ts';
import { ARRAY_OPTIONS } from './options.ts';
import { textContainer } from './text-form.ts';

/** Type codes of Python's `array`, which small Pythons have too, by size. */
const WHOLE_CODES = { 1: 'b', 2: 'h', 4: 'i' } as const;
const FLOAT_CODES = { 4: 'f', 8: 'd' } as const;

const isBytes = (element: Element) => !element.isFloat && element.bytes === 1 && !element.signed;

function codeOf(element: Element): string {
  if (element.isFloat) return FLOAT_CODES[element.bytes];
  const code = WHOLE_CODES[element.bytes];
  return element.signed ? code : code.toUpperCase();
}

/** A bytes object of Python, or an array of its numbers, with names for its rate and channels. */
export const python = textContainer({
  id: 'python',
  title: 'Python source',
  language: 'python',
  options: ARRAY_OPTIONS,
  extensions: ['py'],
  comment: ['# ', ''],
  // What begins with a digit or is a keyword cannot be imported, and `array` would stand before the module that is needed.
  takesStem: (stem) => !/^\d/.test(stem) && !KEYWORDS.has(stem) && stem !== 'array',
  before: ({ name, element, sampleRate, channels, options }) => {
    const prefix = name.toUpperCase();
    return [
      ...(isBytes(element) ? [] : ['import array']),
      ...(options.constants ? [`${prefix}_SAMPLE_RATE = ${sampleRate}`, `${prefix}_CHANNELS = ${channels}`] : []),
      isBytes(element) ? `${prefix} = bytes((` : `${prefix} = array.array('${codeOf(element)}', (`,
    ];
  },
  line: () => ({ prefix: '    ', end: ',' }),
  lastEnd: ',',
  after: () => ['))'],
  opening: /\n\w+ = (?:bytes\(|array\.array\('\w', )\(\n/,
  closing: ')',
  states: { sampleRate: /_SAMPLE_RATE = (\d+)/ },
});
