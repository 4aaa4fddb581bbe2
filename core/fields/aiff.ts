import { viewOf } from '../bytes/index.ts';
import { formatRate } from '../words/index.ts';
import { bitsWords, bytesWords, type FieldList, type FieldReader } from './field-list.ts';

/** An 80-bit number of IEEE 754: sign and exponent in 16 bits, then a mantissa of 64. */
function extended(bytes: Uint8Array): number {
  if (bytes.length < 10) return 0;
  const view = viewOf(bytes);
  return Number(view.getBigUint64(2)) * 2 ** ((view.getUint16(0) & 0x7fff) - 16_383 - 63);
}

function common(fields: FieldList, size: number): void {
  const end = fields.at + size;
  fields.number('channels', 2);
  fields.number('frames', 4);
  fields.number('bit depth', 2, bitsWords);
  fields.note('sample rate', 10, formatRate(extended(fields.peek(10))));
  if (end - fields.at >= 4) fields.text('encoding', 4);
  if (end > fields.at) fields.note('name of the encoding', end - fields.at, fields.peekText(end - fields.at).slice(1));
}

const TEXTS = ['NAME', 'AUTH', '(c) ', 'ANNO'];

/** AIFF and AIFF-C (Apple, 1989 and 1991; from memory): chunks, the larger byte first. */
export const aiff: FieldReader = {
  recognises: (head) => String.fromCharCode(...head.subarray(0, 4)) === 'FORM',
  read(fields) {
    fields.little = false;
    fields.text('file of chunks', 4);
    fields.number('bytes that follow', 4, bytesWords);
    fields.text('kind of file', 4);
    while (fields.has(8)) {
      const id = fields.text('chunk', 4);
      const size = fields.number(`bytes of ${id.trim()}`, 4, bytesWords);
      if (id === 'COMM') common(fields, size);
      else if (id === 'SSND') {
        fields.number('offset of the sound', 4, bytesWords);
        fields.number('block size', 4, bytesWords);
        fields.note('samples', size - 8, bytesWords(size - 8), 'sound');
      } else if (TEXTS.includes(id)) fields.text(id.trim(), size, 'tag');
      else fields.note(`content of ${id.trim()}`, size, '', 'other');
      if (size % 2 === 1) fields.note('padding', 1, '', 'other');
    }
  },
};
