import { formatCount } from '../words/index.ts';
import { bytesWords, type FieldReader } from './field-list.ts';

/** Pages that are shown one by one. */
const MOST_PAGES = 12;

/** Ogg: pages of a header, a table of lengths, and packets (RFC 3533). */
export const ogg: FieldReader = {
  recognises: (head) => String.fromCharCode(...head.subarray(0, 4)) === 'OggS',
  read(fields) {
    for (let page = 0; page < MOST_PAGES && fields.has(27) && fields.peekText(4) === 'OggS'; page++) {
      fields.text('page', 4);
      fields.number('version', 1);
      fields.number(
        'kind of page',
        1,
        (kind) =>
          [...(kind & 1 ? ['goes on'] : []), ...(kind & 2 ? ['first'] : []), ...(kind & 4 ? ['last'] : [])].join(
            ', ',
          ) || 'usual',
      );
      fields.number('position', 8, (value) => (value > 2 ** 62 ? 'none' : `${formatCount(value)} frames`));
      fields.note('serial number', 4, '');
      fields.number('page number', 4);
      fields.note('checksum', 4, '');
      const count = fields.number('segments', 1);
      const size = fields.peek(count).reduce((sum, length) => sum + length, 0);
      fields.note('lengths', count, '');
      const isHeader = /^(.vorbis|Opus|.FLAC|fLaC)/s.test(fields.peekText(8));
      fields.note(isHeader ? 'header of the codec' : 'packets', size, bytesWords(size), isHeader ? 'tag' : 'sound');
    }
    const left = fields.file.size - fields.at;
    if (left > 0) fields.note('more pages', left, bytesWords(left), 'sound');
  },
};
