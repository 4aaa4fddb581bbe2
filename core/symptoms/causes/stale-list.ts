import { calledIn, readListFile } from '../../lists/index.ts';
import { nameIn } from '../../standin/index.ts';
import type { Cause } from '../cause.ts';

export const staleList: Cause = {
  id: 'stale-list',
  title: 'The list on the card is another one',
  tellApart: 'Open the list: the file is not in it, or it names files that are not there.',
  try({ situation, player, inserted, shown, file }) {
    const [list] = situation.device.lists;
    if (player.order !== 'list' || !list || !situation.isWhole) return null;
    const text = inserted.seen.find(({ path }) => path === list.path);
    if (!text) {
      return {
        signs: { 'not-listed': 0.95 },
        seen: `There is no ${list.path} on the card.`,
        mend: { words: `put ${list.path} beside the sounds`, where: 'card' },
      };
    }
    const { rows } = readListFile(text.bytes, list);
    const gone = inserted.refused.filter(({ word }) => word === 'not found');
    const isNamed = rows.some((row) => calledIn(row) === nameIn(file.path));
    if (isNamed && gone.length === 0) return null;
    return {
      signs: {
        ...(isNamed || shown ? {} : { 'not-listed': 0.95 }),
        ...(gone.length ? { refused: 0.7, 'name-wrong': 0.7, 'wrong-sound': 0.7, 'others-vanished': 0.5 } : {}),
      },
      seen: isNamed
        ? `${list.path} names ${gone.map(({ path }) => path).join(', ')}, which is not there.`
        : `${list.path} has ${rows.length} rows, and none of them names ${nameIn(file.path)}.`,
      mend: { words: `build the set again: ${list.path} is written with it`, where: 'job' },
    };
  },
};
