import type { Cause } from '../cause.ts';

export const keptOld: Cause = {
  id: 'kept-old',
  title: 'The device still has the old one in its memory',
  tellApart: 'After a restart the new one is there.',
  try({ situation: { card }, inserted: { seen }, file, shown, refusal }) {
    const old = seen.filter((entry, i) => entry !== card[i]);
    if (old.length === 0) return null;
    const isThis = old.some(({ path }) => path === file.path);
    return {
      signs: isThis
        ? { 'old-sound': 0.95 }
        : { 'name-wrong': 0.6, ...(shown || refusal ? {} : { 'not-listed': 0.95 }) },
      seen: `It still has ${old.map(({ path }) => path).join(', ')} as it was before.`,
      mend: { words: 'restart the device, or what hands it its files', where: 'device' },
    };
  },
};
