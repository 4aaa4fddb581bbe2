import { bytesWords, type FieldReader, hertzWords } from './field-list.ts';

/** Encodings by their numbers (Sun, 1992; from memory). */
const ENCODINGS: Readonly<Record<number, string>> = {
  1: 'G.711 mu-law',
  2: '8-bit PCM',
  3: '16-bit PCM',
  4: '24-bit PCM',
  5: '32-bit PCM',
  6: '32-bit float',
  7: '64-bit float',
  27: 'G.711 A-law',
};

/** AU: six numbers, the larger byte first, a comment, and the sound. */
export const au: FieldReader = {
  recognises: (head) => String.fromCharCode(...head.subarray(0, 4)) === '.snd',
  read(fields) {
    fields.little = false;
    fields.text('kind of file', 4);
    const start = fields.number('where the sound begins', 4, bytesWords);
    fields.number('bytes of sound', 4, (value) => (value === 0xffff_ffff ? 'to the end' : bytesWords(value)));
    fields.number('encoding', 4, (value) => `${value}: ${ENCODINGS[value] ?? 'another'}`);
    fields.number('sample rate', 4, hertzWords);
    fields.number('channels', 4);
    if (start > fields.at) fields.text('comment', start - fields.at, 'tag');
    fields.note('samples', fields.file.size - fields.at, bytesWords(fields.file.size - fields.at), 'sound');
  },
};
