import { BYTE, type Element } from './elements.ts';
import { textContainer } from './text-form.ts';

/** Type codes of Python's `array`, which small Pythons have too, by size. */
const CODES = {
  whole: { 1: 'b', 2: 'h', 4: 'i', 8: 'q' },
  float: { 1: 'f', 2: 'f', 4: 'f', 8: 'd' },
} as const;

const isBytes = ({ bytes, signed }: Element) => bytes === BYTE.bytes && !signed;

function codeOf({ bytes, signed, isFloat }: Element): string {
  if (isFloat) return CODES.float[bytes];
  const code = CODES.whole[bytes];
  return signed ? code : code.toUpperCase();
}

/** A bytes object of Python, or an array of its numbers, with names for its rate and channels. */
export const python = textContainer({
  id: 'python',
  title: 'Python source',
  extensions: ['py'],
  comment: ['# ', ''],
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
