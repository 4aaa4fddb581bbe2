import * as v from 'valibot';
import { formatChoice } from '../../audio/index.ts';
import {
  blockEncodings,
  compressedEncodings,
  encodings,
  findCompressed,
  findEncoding,
  USUAL_ENCODING,
} from '../../encodings/index.ts';
import { encodingTitle } from '../../facts/index.ts';
import { common, type FileRequirementKind, notStated } from './requirement.ts';

const allEncodings = () =>
  [...encodings, ...blockEncodings, ...compressedEncodings].map(({ id, title }) => ({ value: id, label: title }));

const isKnown = (id: string) => findEncoding(id) !== undefined || findCompressed(id) !== undefined;
const unknown = () =>
  `there is no such encoding; there are ${allEncodings()
    .map(({ value }) => value)
    .join(', ')}, and PCM of 1 to 32 bits in any layout`;

const schema = v.strictObject({
  kind: v.literal('encoding'),
  anyOf: v.pipe(v.array(v.pipe(v.string(), v.check(isKnown, unknown))), v.minLength(1)),
  ...common,
});

const titles = (ids: readonly string[]) => formatChoice(ids.map(encodingTitle));

/** How single samples are stored, their depth included. */
export const encoding: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'encoding',
  scope: 'file',
  usual: { kind: 'encoding', anyOf: [USUAL_ENCODING] },
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
