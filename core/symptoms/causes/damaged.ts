import type { Cause } from '../cause.ts';

export const damaged: Cause = {
  id: 'damaged',
  title: 'It is damaged or incomplete',
  tellApart: 'Copy it again, and compare its size.',
  try({ file, refusal, facts }) {
    const isEmpty = file.bytes.size === 0;
    const isRefused = refusal?.word === 'damaged';
    const words = isEmpty ? 'The file is empty.' : isRefused ? refusal.reason : facts?.warnings[0];
    if (words === undefined) return null;
    return {
      signs: { refused: refusal ? 0.97 : 0.3, 'cut-off': 0.9, silence: isEmpty ? 0.97 : 0.4 },
      seen: words,
      mend: { words: 'build it again, and copy it again', where: 'card' },
    };
  },
};
