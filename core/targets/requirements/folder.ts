import * as v from 'valibot';
import { common, type FileRequirementKind } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('folder'),
  /** From the top of the card, "sounds/en". */
  path: v.pipe(
    v.string(),
    v.regex(/^[A-Za-z0-9_-]+(\/[A-Za-z0-9_-]+)*$/, 'a folder is written as sounds/en'),
    v.maxLength(120),
  ),
});

/** Where on the card the file is. */
export const folder: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'folder',
  scope: 'file',
  usual: { key: 'folder', kind: 'folder', path: 'sounds' },
  fields: [{ key: 'path', label: 'Folder', type: 'text' }],
  schema,
  title: 'folder',
  wanted: ({ path }) => path,
  covers: ({ path }, implied) => path.toLowerCase() === implied.path.toLowerCase(),
  demands: ({ path }) => ({ folder: path }),
  check: ({ path }, subject) =>
    subject.folder === undefined
      ? { meets: null, found: 'the file does not say' }
      : {
          meets: subject.folder.toLowerCase() === path.toLowerCase(),
          found: subject.folder || 'the top of the card',
          mend: `put it into ${path}`,
        },
};
