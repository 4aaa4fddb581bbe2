import { ARRAY_OPTIONS } from './options.ts';
import { textContainer } from './text-form.ts';

/** A static array of Rust. */
export const rust = textContainer({
  id: 'rust',
  title: 'Rust source',
  language: 'rust',
  options: [...ARRAY_OPTIONS, 'elementType', 'storageAttribute'],
  extensions: ['rs'],
  comment: ['// ', ''],
  before: ({ name, element, length, sampleRate, channels, options }) => {
    const prefix = name.toUpperCase();
    const attribute = options.storageAttribute ? [options.storageAttribute] : [];
    const type = options.elementType || `${element.isFloat ? 'f' : element.signed ? 'i' : 'u'}${8 * element.bytes}`;
    return [
      ...(options.constants
        ? [
            `pub const ${prefix}_SAMPLE_RATE: u32 = ${sampleRate};`,
            `pub const ${prefix}_CHANNELS: usize = ${channels};`,
          ]
        : []),
      ...attribute,
      `pub static ${prefix}: [${type}; ${length}] = [`,
    ];
  },
  line: () => ({ prefix: '    ', end: ',' }),
  lastEnd: ',',
  after: () => ['];'],
  opening: /pub static \w+: \[\w+; \d+\] = \[\n/,
  closing: ']',
  states: { length: /: \[\w+; (\d+)\] = \[/, sampleRate: /_SAMPLE_RATE: u32 = (\d+)/ },
});
