import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { common, type SetRequirementKind } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('list-file'),
  name: inForm(
    v.pipe(v.string(), v.regex(/^[\w.-]{1,60}$/, 'a name has letters, digits, dots, hyphens and underscores')),
    { label: 'Name', usual: 'sounds.txt' },
  ),
});

/** A text file that the device reads to find its sounds has to be there. */
export const listFile: SetRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'list-file',
  scope: 'set',
  schema,
  title: 'list file',
  wanted: ({ name }) => name,
  check: ({ name }, { others }) =>
    others
      ? {
          meets: others.includes(name),
          found: others.includes(name) ? name : 'none',
          mend: `build the set with Tambur, which writes ${name}`,
        }
      : { meets: null, found: 'the files do not say' },
};
