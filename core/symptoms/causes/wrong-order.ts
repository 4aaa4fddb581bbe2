import { nameIn } from '../../standin/index.ts';
import type { Cause } from '../cause.ts';

export const wrongOrder: Cause = {
  id: 'wrong-order',
  title: 'The device orders its sounds otherwise',
  tellApart: 'Look at the order on the display, or play the numbers one by one.',
  try({ inserted: { shown }, player, situation }) {
    if (!situation.isWhole) return null;
    const names = shown.map(({ file }) => nameIn(file.path));
    const numbers = names.map((name) => Number(/^\d+/.exec(name)?.[0] ?? Number.NaN));
    const twice = numbers.find((number, i) => numbers.slice(0, i).some((other) => other === number));
    if (twice !== undefined && player.order === 'slot') {
      const same = names.filter((_, i) => numbers[i] === twice);
      return {
        signs: { 'wrong-sound': 0.95 },
        seen: `${same.join(' and ')} have the same number.`,
        mend: { words: 'give each its own number', where: 'job', station: 'wrap', wish: 'automatic' },
      };
    }
    const at = numbers.findIndex((number, i) => i > 0 && number < numbers[i - 1]);
    if (at < 0) return null;
    return {
      signs: { 'wrong-sound': 0.9 },
      seen: `${names[at]} comes after ${names[at - 1]}: the device does not count, it sorts sign by sign.`,
      mend: { words: 'write all numbers with as many digits', where: 'job', station: 'wrap', wish: 'automatic' },
    };
  },
};
