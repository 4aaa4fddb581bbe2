import * as v from 'valibot';
import { outContainerOf, USUAL_CONTAINER } from '../../containers/index.ts';
import { inForm, oneOf } from '../../forms/index.ts';
import { extensionIn, isHidden } from '../card.ts';
import type { Trait } from '../trait.ts';

const OTHERS = {
  ignores: 'does not mind other files',
  lists: 'takes other files, hidden ones too, for sounds that it cannot play',
  halts: 'shows nothing while other files are on the card, hidden ones too',
} as const;

const schema = v.strictObject({
  extensions: inForm(
    v.pipe(
      v.array(v.pipe(v.string(), v.regex(/^[a-z0-9]{1,8}$/, 'an extension is written in lower case, without its dot'))),
      v.minLength(1, 'a device finds files of one extension at least'),
    ),
    { label: 'Extensions', usual: outContainerOf(USUAL_CONTAINER).extensions.slice(0, 1) },
  ),
  others: inForm(oneOf(OTHERS), { label: 'It', usual: 'ignores' }),
});

/** Which files a device takes for sounds, by their extensions, and what others do to it. */
export const finds: Trait<'finds', v.InferOutput<typeof schema>> = {
  id: 'finds',
  title: 'Which files it takes for sounds',
  schema,
  words: ({ extensions, others }) =>
    `looks for ${extensions.map((extension) => `.${extension}`).join(', ')} and ${OTHERS[others]}`,
  implies: ({ extensions, others }) => [
    { kind: 'extension', anyOf: extensions },
    ...(others === 'ignores' ? [] : [{ kind: 'nothing-else' }]),
  ],
  otherwise: [
    {
      kind: 'extension',
      words: 'does not see the file',
      value: ({ anyOf }, before) => ({ others: 'ignores', ...before, extensions: anyOf }),
    },
  ],
  find({ extensions, others }, { shown, refused }) {
    const isSound = (path: string) => !isHidden(path) && extensions.includes(extensionIn(path));
    const sounds = shown.filter(({ file }) => isSound(file.path));
    if (others === 'ignores' || sounds.length === shown.length) return { shown: sounds, refused };
    const strange = shown.flatMap(({ file: { path } }) =>
      isSound(path) ? [] : [{ path, word: 'unsupported', reason: 'The device does not look for files like this one.' }],
    );
    if (others === 'lists') return { shown: sounds, refused: [...refused, ...strange] };
    const reason = `${strange[0]?.path ?? ''} is on the card, which is no sound of this device: it shows nothing at all.`;
    return {
      shown: [],
      refused: [...refused, ...strange, ...sounds.map(({ file }) => ({ path: file.path, word: 'card error', reason }))],
    };
  },
};
