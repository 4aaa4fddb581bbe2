import { extensionIn, isHidden } from '../../standin/index.ts';
import type { Cause } from '../cause.ts';

export const hiddenFile: Cause = {
  id: 'hidden-file',
  title: 'There are hidden or other files on the card',
  tellApart: 'A card with nothing but the sounds behaves.',
  try({ file, player, situation, shown }) {
    const { extensions = [], others } = player.finds ?? {};
    const listed = new Set(situation.device.lists.map(({ path }) => path));
    const strange = situation.card.filter(
      ({ path }) => !listed.has(path) && (isHidden(path) || !extensions.includes(extensionIn(path))),
    );
    const isThis = isHidden(file.path);
    const matters = others === 'lists' || others === 'halts' ? strange.length > 0 : isThis;
    // A file of another extension is a cause of its own.
    if (!others || !matters || (strange.length === 1 && strange[0] === file && !isThis)) return null;
    return {
      signs: {
        refused: 0.7,
        'wrong-sound': 0.8,
        ...(isThis
          ? { 'not-listed': 0.95, refused: 0.95 }
          : others === 'halts' && !shown
            ? { 'not-listed': 0.95 }
            : {}),
      },
      seen: `Beside the sounds there are ${strange
        .slice(0, 3)
        .map(({ path }) => path)
        .join(', ')}.`,
      mend: { words: 'remove them, hidden ones too: a computer puts some there by itself', where: 'card' },
    };
  },
};
