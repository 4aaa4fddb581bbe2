import anyAscii from 'any-ascii';

/** Text of one line: control characters, line feeds among them, become spaces; halves of characters a mark. */
export const oneLine = (text: string): string =>
  text.replace(/[\p{Cc}\u2028\u2029]+/gu, ' ').replace(/\p{Surrogate}/gu, '\ufffd');

/** A sentence of one line that is no longer than so much: what a user gave may stand in it, and be endless. */
export function shortened(sentence: string, most = 600): string {
  const line = oneLine(sentence);
  return line.length <= most ? line : `${line.slice(0, most - 1)}\u2026`;
}

/** A text of any script in letters of ASCII: "Łódź, 東京" is "Lodz, DongJing". */
export const inLatin = (text: string): string => anyAscii(text);
