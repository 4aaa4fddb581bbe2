import { extensionIn, isHidden } from '../../standin/index.ts';
import type { Cause } from '../cause.ts';

export const wrongExtension: Cause = {
  id: 'wrong-extension',
  title: 'It has another extension than the device looks for',
  tellApart: 'Rename it, and it is there.',
  try({ file, player, shown }) {
    const { extensions, others } = player.finds ?? {};
    const extension = extensionIn(file.path);
    if (shown || !extensions || extensions.includes(extension) || isHidden(file.path)) return null;
    const found = extension ? `It ends in .${extension}` : 'It has no extension';
    return {
      signs: { 'not-listed': 0.95, ...(others === 'ignores' ? {} : { refused: 0.9 }) },
      seen: `${found}; the device looks for ${extensions.map((one) => `.${one}`).join(', ')}.`,
      mend: { words: `let its name end in .${extensions[0]}`, where: 'job', station: 'wrap', wish: 'automatic' },
    };
  },
};
