import { viewOf } from '../bytes/index.ts';
import { formatRate } from '../words/index.ts';
import { bitsWords, bytesWords, type FieldReader } from './field-list.ts';

/** CAF: chunks with sizes of 64 bits, the larger byte first (Apple, 2011; from memory). */
export const caf: FieldReader = {
  recognises: (head) => String.fromCharCode(...head.subarray(0, 4)) === 'caff',
  read(fields) {
    fields.little = false;
    fields.text('kind of file', 4);
    fields.number('version', 2);
    fields.number('flags', 2, String);
    while (fields.has(12)) {
      const id = fields.text('chunk', 4);
      const stated = fields.number(`bytes of ${id.trim()}`, 8, (value) =>
        value > 2 ** 62 ? 'to the end' : bytesWords(value),
      );
      const size = Math.min(stated, fields.file.size - fields.at);
      if (id === 'desc' && size >= 32) {
        fields.note('sample rate', 8, formatRate(viewOf(fields.peek(8)).getFloat64(0)));
        fields.text('encoding', 4);
        fields.number('flags of the encoding', 4, String);
        fields.number('bytes of a packet', 4, bytesWords);
        fields.number('frames of a packet', 4);
        fields.number('channels', 4);
        fields.number('bit depth', 4, bitsWords);
      } else if (id === 'data') {
        fields.number('count of edits', 4);
        fields.note('samples', size - 4, bytesWords(size - 4), 'sound');
      } else fields.note(`content of ${id.trim()}`, size, '', id === 'info' ? 'tag' : 'other');
    }
  },
};
