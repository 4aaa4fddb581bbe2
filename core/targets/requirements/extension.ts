import * as v from 'valibot';
import { outContainerOf, USUAL_CONTAINER } from '../../containers/index.ts';
import { inForm } from '../../forms/index.ts';
import { formatChoice } from '../../words/index.ts';
import { inBoth } from './narrow.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('extension'),
  /** Without the dot, the preferred one first. */
  anyOf: inForm(v.pipe(v.array(v.pipe(v.string(), v.regex(/^[a-z0-9]{1,8}$/i))), v.minLength(1)), {
    label: 'One of, without the dot',
    usual: [outContainerOf(USUAL_CONTAINER).extensions[0]],
  }),
});

/** The end of the file's name. Compared without regard to case: devices that read cards do not tell cases apart. */
export const extension: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'extension',
  scope: 'file',
  station: 'wrap',
  schema,
  title: 'extension',
  wanted: ({ anyOf }) => formatChoice(anyOf.map((text) => `.${text}`)),
  narrow(a, b) {
    const anyOf = inBoth(a.anyOf, b.anyOf, (own) => own.toLowerCase());
    return anyOf && { ...a, anyOf };
  },
  demands: ({ anyOf }) => ({ extensions: anyOf }),
  check({ anyOf }, { fileName }) {
    const found = /\.([^.]+)$/.exec(fileName)?.[1] ?? '';
    return {
      meets: anyOf.some((wanted) => wanted.toLowerCase() === found.toLowerCase()),
      found: found ? `.${found}` : 'none',
      mend: `name it .${anyOf[0]}`,
    };
  },
};
