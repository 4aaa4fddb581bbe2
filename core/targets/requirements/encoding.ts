import * as v from 'valibot';
import { formatChoice } from '../../audio/index.ts';
import { blockEncodings, compressedEncodings, encodings } from '../../encodings/index.ts';
import { encodingTitle } from '../../facts/index.ts';
import { common, type FileRequirementKind, notStated } from './requirement.ts';

const schema = v.strictObject({
  kind: v.literal('encoding'),
  anyOf: v.pipe(v.array(v.string()), v.minLength(1)),
  ...common,
});

const allEncodings = () =>
  [...encodings, ...blockEncodings, ...compressedEncodings].map(({ id, title }) => ({ value: id, label: title }));

const titles = (ids: readonly string[]) => formatChoice(ids.map(encodingTitle));

/** How single samples are stored, their depth included. */
export const encoding: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'encoding',
  scope: 'file',
  usual: { kind: 'encoding', anyOf: ['pcm-s16le'] },
  fields: [{ key: 'anyOf', label: 'One of', type: 'choices', options: allEncodings }],
  schema,
  title: 'encoding',
  wanted: ({ anyOf }) => titles(anyOf),
  demands: ({ anyOf }) => ({ encodings: anyOf }),
  check: ({ anyOf }, { facts }) =>
    facts.certainty === 'assumed'
      ? notStated(encodingTitle(facts.encoding))
      : {
          meets: anyOf.includes(facts.encoding),
          found: encodingTitle(facts.encoding),
          mend: `encode it as ${titles(anyOf)}`,
        },
};
