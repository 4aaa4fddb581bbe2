import * as v from 'valibot';
import { headerless, outContainers, USUAL_CONTAINER } from '../../containers/index.ts';
import { containerId, containerTitle, containerWords } from '../../facts/index.ts';
import { formatChoice } from '../../words/index.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('container'),
  anyOf: v.pipe(v.array(containerId), v.minLength(1)),
});

const titles = (ids: readonly string[]) => formatChoice(ids.map(containerTitle));

/** The kind of file. */
export const container: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'container',
  scope: 'file',
  station: 'wrap',
  usual: { key: 'container', kind: 'container', anyOf: [USUAL_CONTAINER] },
  fields: [
    {
      key: 'anyOf',
      label: 'One of',
      type: 'choices',
      options: () => outContainers().map(({ id, title }) => ({ value: id, label: title })),
    },
  ],
  schema,
  title: 'container',
  wanted: ({ anyOf }) => titles(anyOf),
  covers: (asked, implied) => asked.anyOf.every((id) => implied.anyOf.includes(id)),
  demands: ({ anyOf }) => ({ containers: anyOf }),
  check: ({ anyOf }, { facts, takesArrays = false }) => ({
    meets: anyOf.includes(facts.container) && (facts.array === undefined || takesArrays),
    found: containerWords(facts),
    mend: anyOf.includes(headerless.id) ? 'write the bare samples, without a header' : `write it as ${titles(anyOf)}`,
  }),
};
