import type * as v from 'valibot';
import { inForm, oneOf } from '../../forms/index.ts';
import type { Trait } from '../trait.ts';

const WORDS = {
  list: 'keeps its list until it is restarted',
  files: 'keeps its list and every file until it is restarted, whatever comes under the same name',
} as const;

const schema = inForm(oneOf(WORDS), { label: 'It', usual: 'list' });

/** What the device, or the service that hands it its files, has in its memory until it is restarted. */
export const keeps: Trait<'keeps', v.InferOutput<typeof schema>> = {
  id: 'keeps',
  title: 'What it keeps until it is restarted',
  schema,
  words: (value) => WORDS[value],
  steps: () => [
    {
      at: ['old-sound', 'not-listed', 'name-wrong', 'wrong-sound'],
      words: 'Restart the device, or what hands it its files: until then it keeps what it has in its memory.',
    },
  ],
  recall(value, card, before, lists) {
    const isKept = (path: string) => value === 'files' || lists.some((list) => list.path === path);
    const old = new Map(before.filter(({ path }) => isKept(path)).map((file) => [file.path, file]));
    return card.map((file) => old.get(file.path) ?? file);
  },
};
