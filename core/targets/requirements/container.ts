import * as v from 'valibot';
import { headerless, outContainers, USUAL_CONTAINER } from '../../containers/index.ts';
import { containerId, containerTitle, containerWords } from '../../facts/index.ts';
import { inForm } from '../../forms/index.ts';
import { formatChoice } from '../../words/index.ts';
import { narrowChoices } from './narrow.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('container'),
  anyOf: inForm(v.pipe(v.array(containerId), v.minLength(1)), {
    label: 'One of',
    options: () => outContainers().map(({ id, title }) => ({ value: id, label: title })),
    usual: [USUAL_CONTAINER],
  }),
});

const titles = (ids: readonly string[]) => formatChoice(ids.map(containerTitle));

/** The kind of file. */
export const container: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'container',
  scope: 'file',
  station: 'wrap',
  schema,
  title: 'container',
  wanted: ({ anyOf }) => titles(anyOf),
  narrow: narrowChoices,
  demands: ({ anyOf }) => ({ containers: anyOf }),
  check: ({ anyOf }, { facts, takesArrays = false }) => ({
    meets: anyOf.includes(facts.container) && (facts.array === undefined || takesArrays),
    found: containerWords(facts),
    mend: anyOf.includes(headerless.id) ? 'write the bare samples, without a header' : `write it as ${titles(anyOf)}`,
  }),
};
