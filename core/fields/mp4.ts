import { bytesWords, type FieldList, type FieldReader } from './field-list.ts';

/** Boxes that hold boxes. */
const OUTER = ['moov', 'trak', 'mdia', 'minf', 'stbl', 'udta', 'edts', 'dinf', 'ilst', 'moof', 'traf'];

function boxes(fields: FieldList, end: number): void {
  while (fields.at + 8 <= end && fields.has(8)) {
    const start = fields.at;
    const size = fields.number('bytes of the box', 4, bytesWords);
    const name = fields.text('box', 4);
    const stop = Math.min(end, size === 0 ? end : start + Math.max(8, size));
    if (OUTER.includes(name)) boxes(fields, stop);
    else if (name === 'meta') {
      fields.note('version and flags', 4, '');
      boxes(fields, stop);
    } else {
      const kind = name === 'mdat' ? 'sound' : name === 'data' ? 'tag' : 'header';
      fields.note(`content of ${name}`, stop - fields.at, bytesWords(stop - fields.at), kind);
    }
    fields.at = stop;
  }
}

/** MPEG-4: boxes within boxes (ISO 14496-12; from memory). */
export const mp4: FieldReader = {
  recognises: (head) => String.fromCharCode(...head.subarray(4, 8)) === 'ftyp',
  read(fields) {
    fields.little = false;
    boxes(fields, fields.file.size);
  },
};
