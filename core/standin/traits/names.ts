import * as v from 'valibot';
import { inForm, wholeWithin } from '../../forms/index.ts';
import { nameIn, stemIn } from '../card.ts';
import type { Trait } from '../trait.ts';

const schema = v.strictObject({
  /** True: letters, digits, hyphen and underscore, nothing else. */
  plain: v.optional(inForm(v.boolean(), { label: 'Letters, digits, hyphen and underscore only', usual: true })),
  /** Nothing but so many digits. */
  digits: v.optional(inForm(wholeWithin({ least: 1, most: 10 }), { label: 'Exact number of digits', unit: 'digits' })),
  /** True: digits alone are something else to it. */
  notDigitsOnly: v.optional(inForm(v.boolean(), { label: 'Not digits only' })),
});

const namesWords = ({ plain, digits, notDigitsOnly }: v.InferOutput<typeof schema>): string =>
  [
    digits ? `names of ${digits} digits` : plain ? 'names of letters, digits, hyphen and underscore' : 'names',
    ...(notDigitsOnly ? ['not of digits only'] : []),
  ].join(', ');

/** Which names the device can deal with; files of others are not there for it. Without their extensions. */
export const names: Trait<'names', v.InferOutput<typeof schema>> = {
  id: 'names',
  title: 'Names that it sees',
  schema,
  words: (rules) => `sees ${namesWords(rules)}`,
  implies: (value) => [{ kind: 'name', ...value }],
  otherwise: [
    {
      kind: 'name',
      words: 'does not see the file',
      value: ({ key: _, kind: __, ...rules }) => (Object.keys(rules).length > 0 ? rules : undefined),
    },
  ],
  trouble: {
    id: 'wrong-name',
    title: 'It has a name that the device does not see',
    tellApart: 'Other files of the same kind, named otherwise, are there.',
    remedy: { words: 'name it as the sheet asks', where: 'job', station: 'wrap', wish: 'automatic' },
    hidden: (rules, { path }) => `It is called ${nameIn(path)}; the device sees ${namesWords(rules)}.`,
  },
  find: ({ plain, digits, notDigitsOnly }, { shown, refused }) => ({
    shown: shown.filter(({ file }) => {
      const stem = stemIn(file.path);
      if (plain && !/^[A-Za-z0-9_-]+$/.test(stem)) return false;
      if (digits && !(stem.length === digits && /^\d+$/.test(stem))) return false;
      return !(notDigitsOnly && /^\d+$/.test(stem));
    }),
    refused,
  }),
};
