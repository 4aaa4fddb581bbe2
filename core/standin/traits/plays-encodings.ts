import * as v from 'valibot';
import { findEncoding, USUAL_ENCODING } from '../../encodings/index.ts';
import { encodingId, encodingTitle, namedEncodings } from '../../facts/index.ts';
import { inForm } from '../../forms/index.ts';
import { othersChoices, othersSchema, othersWords, statedOf, type Trait, takenAs, unknownTo } from '../trait.ts';

const schema = v.strictObject({
  /** The first is what others are played as. */
  anyOf: inForm(v.pipe(v.array(encodingId), v.minLength(1)), {
    label: 'One of',
    options: () => namedEncodings().map(({ id, title }) => ({ value: id, label: title })),
    usual: [USUAL_ENCODING],
  }),
  others: inForm(othersSchema, { label: 'Others', usual: 'refuses' }),
});

const titles = (ids: readonly string[]) => ids.map(encodingTitle).join(', ');

/** The encodings that it plays, and what it does with others. */
export const playsEncodings: Trait<'plays-encodings', v.InferOutput<typeof schema>> = {
  id: 'plays-encodings',
  title: 'Encodings that it plays',
  schema,
  words: ({ anyOf, others }) =>
    `plays ${titles(anyOf)} and ${othersWords(others, 'other encodings', titles(anyOf.slice(0, 1)))}`,
  implies: ({ anyOf }, { reads }) => (reads === 'bare' ? [] : [{ kind: 'encoding', anyOf }]),
  otherwise: othersChoices('encoding'),
  take({ anyOf, others }, taken) {
    const stated = statedOf(taken);
    if (taken.kind === 'bare' || !stated || anyOf.includes(stated.encoding)) return taken;
    const [as] = anyOf;
    if (others === 'as-if' && taken.kind === 'samples' && as !== undefined && findEncoding(as)) {
      return { kind: 'samples', sound: takenAs(taken.sound, { encoding: as }) };
    }
    const reason = `Its samples are ${encodingTitle(stated.encoding)}; the device plays ${titles(anyOf)}.`;
    return unknownTo(others === 'silent' ? 'silent' : 'refuses', taken, reason);
  },
};
