import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { common, type SetRequirementKind } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('nothing-else'),
  /** Names that may be there. */
  but: v.optional(inForm(v.array(v.pipe(v.string(), v.nonEmpty())), { label: 'Except these' })),
});

const SHOWN = 3;

/** Nothing but the sounds on the card: hidden files of a computer confuse some devices. */
export const nothingElse: SetRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'nothing-else',
  scope: 'set',
  schema,
  title: 'on the card',
  wanted: ({ but = [] }) => ['nothing but the sounds', ...but].join(', '),
  // What may be there all the same is what the device reads itself: each may know of something.
  narrow: (a, b) => ({ ...a, ...(a.but || b.but ? { but: [...new Set([...(a.but ?? []), ...(b.but ?? [])])] } : {}) }),
  check({ but = [] }, { others }) {
    if (!others) return { meets: null, found: 'the files do not say' };
    const more = others.filter((name) => !but.includes(name));
    const rest = more.length > SHOWN ? ` and ${more.length - SHOWN} more` : '';
    return {
      meets: more.length === 0,
      found: more.length ? more.slice(0, SHOWN).join(', ') + rest : 'nothing else',
      mend: 'remove them, hidden ones too',
    };
  },
};
