import { waveName } from '../containers/index.ts';
import { bitsWords, bytesWords, type FieldList, type FieldReader, hertzWords } from './field-list.ts';

function format(fields: FieldList, size: number): void {
  const end = fields.at + size;
  fields.number('format tag', 2, (tag) => `${tag}: ${waveName(tag)}`);
  fields.number('channels', 2);
  fields.number('sample rate', 4, hertzWords);
  fields.number('bytes a second', 4, bytesWords);
  fields.number('bytes of a frame or block', 2, bytesWords);
  fields.number('bit depth', 2, bitsWords);
  if (end - fields.at >= 2) fields.number('bytes of the extension', 2, bytesWords);
  if (end > fields.at) fields.note('extension', end - fields.at, '');
}

/** Names and texts of a LIST chunk of the kind INFO. */
function info(fields: FieldList, size: number): void {
  const end = fields.at + size;
  fields.text('kind of list', 4, 'tag');
  while (fields.at + 8 <= end && fields.has(8)) {
    const name = fields.text('tag', 4, 'tag');
    const length = fields.number('bytes of the tag', 4, bytesWords, 'tag');
    fields.text(name, Math.min(length + (length % 2), end - fields.at), 'tag');
  }
}

/** WAV and its larger forms: chunks of a name, a size and their content (IBM and Microsoft, 1991; EBU Tech 3306; from memory). */
export const riff: FieldReader = {
  recognises: (head) => /^(RIFF|RIFX|RF64|BW64)/.test(String.fromCharCode(...head.subarray(0, 4))),
  read(fields) {
    const name = fields.text('file of chunks', 4);
    fields.little = name !== 'RIFX';
    fields.number('bytes that follow', 4, (value) => (value === 0xffff_ffff ? 'see ds64' : bytesWords(value)));
    fields.text('kind of file', 4);
    let long = 0;
    while (fields.has(8)) {
      const id = fields.text('chunk', 4);
      const stated = fields.number(`bytes of ${id.trim()}`, 4, bytesWords);
      const size = id === 'data' && stated === 0xffff_ffff ? long : stated;
      if (id === 'ds64') {
        fields.number('bytes of the file', 8, bytesWords);
        long = fields.number('bytes of the data', 8, bytesWords);
        fields.note('rest of ds64', Math.max(0, size - 16), '');
      } else if (id === 'fmt ') format(fields, size);
      else if (id === 'fact') fields.number('frames', 4);
      else if (id === 'data') fields.note('samples', size, bytesWords(size), 'sound');
      else if (id === 'LIST' && fields.peekText(4) === 'INFO') info(fields, size);
      else fields.note(`content of ${id.trim()}`, size, '', 'other');
      if (size % 2 === 1) fields.note('padding', 1, '', 'other');
    }
  },
};
