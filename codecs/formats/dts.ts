import { type LibraryFormat, startsWith, unsupported } from './format.ts';

/** How frames of DTS begin: 16 or 14 bits in a word, in either order of bytes (ETSI TS 102 114, 5.3; from memory). */
const SYNCS = [
  '\u007f\u00fe\u0080\u0001',
  '\u00fe\u007f\u0001\u0080',
  '\u001f\u00ff\u00e8\u0000',
  '\u00ff\u001f\u0000\u00e8',
];

/** DTS as bare frames: named, and refused. There is no decoder of it under a licence that goes with Tambur's. */
export const dts: LibraryFormat = {
  title: 'DTS',
  recognises: startsWith(...SYNCS),
  open: () => Promise.reject(unsupported('DTS', 'sound in DTS')),
};
