import { bytesWords, type FieldReader } from './field-list.ts';

/** True if a frame of MPEG audio begins: eleven bits that are set, and no layer or rate that is kept free. */
const isFrame = (bytes: Uint8Array): boolean =>
  bytes[0] === 0xff && (bytes[1] & 0xe0) === 0xe0 && (bytes[1] & 6) !== 0 && (bytes[2] & 12) !== 12;

const MODES = ['stereo', 'joint stereo', 'two channels', 'mono'];

/** MPEG audio: perhaps a tag of ID3 in front (id3.org, version 2.3; from memory), then frames (ISO 11172-3; from memory). */
export const mpeg: FieldReader = {
  recognises: (head) => String.fromCharCode(...head.subarray(0, 3)) === 'ID3' || isFrame(head),
  read(fields) {
    fields.little = false;
    if (fields.peekText(3) === 'ID3') {
      fields.text('tag', 3, 'tag');
      fields.number('version', 2, (value) => `2.${value >> 8}.${value & 255}`, 'tag');
      fields.number('flags', 1, String, 'tag');
      // Seven bits of each byte.
      const size = fields.peek(4).reduce((sum, byte) => sum * 128 + (byte & 127), 0);
      fields.note('bytes of the tag', 4, bytesWords(size), 'tag');
      fields.note('frames of the tag', size, '', 'tag');
    }
    const bytes = fields.peek(4);
    if (isFrame(bytes)) {
      const mode = MODES[(bytes[3] ?? 0) >> 6] ?? '';
      fields.note('header of the first frame', 4, `layer ${4 - (((bytes[1] ?? 0) >> 1) & 3)}, ${mode}`);
    }
    const mark = fields.peekText(256).search(/Xing|Info/);
    if (mark >= 0) {
      fields.note('side information', mark, '', 'other');
      fields.text('information on the length', 4);
    }
    const left = fields.file.size - fields.at;
    fields.note('frames', left, bytesWords(left), 'sound');
  },
};
