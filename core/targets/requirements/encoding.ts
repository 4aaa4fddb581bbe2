import * as v from 'valibot';
import { USUAL_ENCODING } from '../../encodings/index.ts';
import { encodingId, encodingTitle, namedEncodings } from '../../facts/index.ts';
import { inForm } from '../../forms/index.ts';
import { formatChoice } from '../../words/index.ts';
import { narrowChoices } from './narrow.ts';
import { common, type FileRequirementKind, notStated } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('encoding'),
  anyOf: inForm(v.pipe(v.array(encodingId), v.minLength(1)), {
    label: 'One of',
    options: () => namedEncodings().map(({ id, title }) => ({ value: id, label: title })),
    usual: [USUAL_ENCODING],
  }),
});

const titles = (ids: readonly string[]) => formatChoice(ids.map(encodingTitle));

/** How single samples are stored, their depth included. */
export const encoding: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'encoding',
  scope: 'file',
  station: 'wrap',
  schema,
  title: 'encoding',
  wanted: ({ anyOf }) => titles(anyOf),
  narrow: narrowChoices,
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
