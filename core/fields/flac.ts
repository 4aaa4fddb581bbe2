import { viewOf } from '../bytes/index.ts';
import { FLAC_METADATA } from '../encodings/flac/index.ts';
import { formatChannels, formatCount } from '../words/index.ts';
import { bytesWords, type FieldList, type FieldReader, hertzWords } from './field-list.ts';

/** RFC 9639, section 8.2. */
function streamInfo(fields: FieldList): void {
  fields.number('least block', 2);
  fields.number('greatest block', 2);
  fields.number('least frame', 3, bytesWords);
  fields.number('greatest frame', 3, bytesWords);
  const view = viewOf(fields.peek(8));
  const high = view.getUint32(0);
  const rate = high >>> 12;
  const channels = ((high >>> 9) & 7) + 1;
  const bits = ((high >>> 4) & 31) + 1;
  const frames = (high & 15) * 2 ** 32 + view.getUint32(4);
  fields.note(
    'rate, channels, depth, frames',
    8,
    `${hertzWords(rate)}, ${formatChannels(channels)}, ${bits} bit, ${formatCount(frames)} frames`,
  );
  fields.note('MD5 of the sound', 16, '');
}

/** FLAC: its mark, blocks of metadata, and frames (RFC 9639). */
export const flac: FieldReader = {
  recognises: (head) => String.fromCharCode(...head.subarray(0, 4)) === 'fLaC',
  read(fields) {
    fields.little = false;
    fields.text('kind of file', 4);
    for (let isLast = false; !isLast && fields.has(4); ) {
      const [head = 0] = fields.peek(1);
      isLast = (head & 128) !== 0;
      const type = head & 127;
      const name = FLAC_METADATA[type] ?? 'unknown block';
      fields.note('block', 1, `${name}${isLast ? ', the last' : ''}`);
      const size = fields.number(`bytes of the ${name}`, 3, bytesWords);
      if (type === 0 && size >= 34 && fields.has(34)) streamInfo(fields);
      else fields.note(name, size, '', type === 4 ? 'tag' : 'other');
    }
    fields.note('frames', fields.file.size - fields.at, bytesWords(fields.file.size - fields.at), 'sound');
  },
};
