import * as v from 'valibot';
import { formatChoice } from '../../audio/index.ts';
import { containerTitle } from '../../facts/index.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const schema = v.object({
  kind: v.literal('container'),
  anyOf: v.pipe(v.array(v.string()), v.minLength(1)),
  ...common,
});

const titles = (ids: readonly string[]) => formatChoice(ids.map(containerTitle));

/** The kind of file. */
export const container: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'container',
  scope: 'file',
  schema,
  title: 'container',
  wanted: ({ anyOf }) => titles(anyOf),
  demands: ({ anyOf }) => ({ containers: anyOf }),
  check: ({ anyOf }, { facts }) => ({
    meets: anyOf.includes(facts.container),
    found: containerTitle(facts.container),
    mend: anyOf.includes('headerless') ? 'write the bare samples, without a header' : `write it as ${titles(anyOf)}`,
  }),
};
