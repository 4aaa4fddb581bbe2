import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('folder'),
  /** From the top of the card, "sounds/en"; empty for the top itself. */
  path: inForm(
    v.pipe(
      v.string(),
      v.regex(/^([A-Za-z0-9_-]+(\/[A-Za-z0-9_-]+)*)?$/, 'a folder is written as sounds/en'),
      v.maxLength(120),
    ),
    { label: 'Folder', usual: 'sounds' },
  ),
});

const TOP = 'the top of the card';

/** Where on the card the file is. */
export const folder: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'folder',
  scope: 'file',
  schema,
  title: 'folder',
  wanted: ({ path }) => path || TOP,
  narrow: (a, b) => (a.path.toLowerCase() === b.path.toLowerCase() ? a : null),
  demands: ({ path }) => ({ folder: path }),
  check: ({ path }, subject) =>
    subject.folder === undefined
      ? { meets: null, found: 'the file does not say' }
      : {
          meets: subject.folder.toLowerCase() === path.toLowerCase(),
          found: subject.folder || TOP,
          mend: `put it into ${path || TOP}`,
        },
};
