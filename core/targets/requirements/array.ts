import * as v from 'valibot';
import { arrayForms } from '../../containers/index.ts';
import { containerTitle } from '../../facts/index.ts';
import { inForm } from '../../forms/index.ts';
import { formatChoice } from '../../words/index.ts';
import { narrowChoices } from './narrow.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const ids = arrayForms.map(({ id }) => id);

const schema = v.strictObject({
  ...common,
  kind: v.literal('array'),
  anyOf: inForm(v.pipe(v.array(v.picklist(ids)), v.minLength(1)), {
    label: 'Any of',
    options: () => arrayForms.map(({ id, title }) => ({ value: id, label: title })),
    usual: ids.slice(0, 1),
  }),
});

/** The whole file, header and all, as an array of source code. */
export const array: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'array',
  scope: 'file',
  station: 'wrap',
  schema,
  title: 'array of the file',
  wanted: ({ anyOf }) => `all of the file in ${formatChoice(anyOf.map(containerTitle))}`,
  narrow: narrowChoices,
  demands: ({ anyOf }) => ({ arrays: anyOf }),
  check: ({ anyOf }, { facts }) => ({
    meets: facts.array !== undefined && anyOf.includes(facts.array),
    found: facts.array === undefined ? 'the file itself' : `all of the file in ${containerTitle(facts.array)}`,
    mend: `put all of the file into ${formatChoice(anyOf.map(containerTitle))}`,
  }),
};
