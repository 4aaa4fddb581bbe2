import type { Element } from './elements.ts';
import type { ArrayContext, TextForm } from './form.ts';
import { ARRAY_OPTIONS } from './options.ts';
import { textContainer } from './text-form.ts';

const typeOf = (element: Element) => {
  if (element.isFloat) return element.bytes === 8 ? 'double' : 'float';
  return `${element.signed ? 'int' : 'uint'}${8 * element.bytes}_t`;
};

const constants = ({ name, sampleRate, channels, length, options }: ArrayContext): string[] => {
  const prefix = name.toUpperCase();
  return [
    ...(options.constants
      ? [`#define ${prefix}_SAMPLE_RATE ${sampleRate}`, `#define ${prefix}_CHANNELS ${channels}`]
      : []),
    `#define ${prefix}_LENGTH ${length}`,
    '',
  ];
};

/** "extern const uint8_t bell". */
const declared = (name: string, element: Element, elementType: string) =>
  `extern const ${elementType || typeOf(element)} ${name}`;

/** "const uint8_t bell[BELL_LENGTH] PROGMEM = {". */
function arrayLine({ name, element, options }: ArrayContext): string {
  const attribute = options.storageAttribute ? ` ${options.storageAttribute}` : '';
  return `const ${options.elementType || typeOf(element)} ${name}[${name.toUpperCase()}_LENGTH]${attribute} = {`;
}

const shared = {
  language: 'c',
  comment: ['/* ', ' */'],
  line: () => ({ prefix: '  ', end: ',' }),
  lastEnd: ',',
  opening: /const [\w ]+ \w+\[\w+\][^={]*=\s*\{/,
  closing: '}',
  states: { length: /#define \w+_LENGTH (\d+)/, sampleRate: /#define \w+_SAMPLE_RATE (\d+)/ },
} as const;

const header: TextForm = {
  ...shared,
  id: 'c-header',
  title: 'C header',
  options: [...ARRAY_OPTIONS, 'elementType', 'storageAttribute', 'guard'],
  extensions: ['h'],
  before: (context) => {
    const prefix = context.name.toUpperCase();
    const guard = context.options.guard ? [`#ifndef ${prefix}_H`, `#define ${prefix}_H`, ''] : [];
    return [...guard, '#include <stdint.h>', '', ...constants(context), `static ${arrayLine(context)}`];
  },
  after: ({ options }) => ['};', ...(options.guard ? ['', '#endif'] : [])],
  opening: /static const [\w ]+ \w+\[\w+\][^={]*=\s*\{/,
};

/** The array is visible to other files; `extern` makes it so in C++ too. */
const source: TextForm = {
  ...shared,
  id: 'c-source',
  title: 'C source',
  options: [...ARRAY_OPTIONS, 'elementType', 'storageAttribute'],
  extensions: ['c'],
  declare: (name, element, elementType) => `${declared(name, element, elementType)}[];`,
  before: (context) => [
    '#include <stdint.h>',
    '',
    ...constants(context),
    `${declared(context.name, context.element, context.options.elementType)}[${context.name.toUpperCase()}_LENGTH];`,
    arrayLine(context),
  ],
  after: () => ['};'],
  opening: /\nconst [\w ]+ \w+\[\w+\][^={]*=\s*\{/,
};

/** A C header with one constant array of numbers, and constants for its rate, channels and length. */
export const cHeader = textContainer(header);

/** The same as a source file, for arrays that several others use. */
export const cSource = textContainer(source);
