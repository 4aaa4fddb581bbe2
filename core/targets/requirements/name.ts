import * as v from 'valibot';
import { common, type FileRequirementKind } from './requirement.ts';

const count = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(255));

const schema = v.object({
  kind: v.literal('name'),
  /** Most characters, without the extension or with it and its dot. */
  most: v.optional(count),
  mostWithExtension: v.optional(count),
  /** True: letters, digits, hyphen and underscore, nothing else. */
  plain: v.optional(v.boolean()),
  /** True: digits alone would be taken for a number. */
  notDigitsOnly: v.optional(v.boolean()),
  ...common,
});

/** How the file may be called. */
export const name: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'name',
  scope: 'file',
  schema,
  title: 'name',
  wanted: ({ most, mostWithExtension, plain, notDigitsOnly }) =>
    [
      ...(plain ? ['letters, digits, hyphen, underscore'] : []),
      ...(most ? [`at most ${most} characters`] : []),
      ...(mostWithExtension ? [`at most ${mostWithExtension} characters with the extension`] : []),
      ...(notDigitsOnly ? ['not digits alone'] : []),
    ].join(', '),
  demands: ({ most, mostWithExtension, notDigitsOnly }) => ({
    name: { most: most ?? null, mostWithExtension: mostWithExtension ?? null, notDigitsOnly: notDigitsOnly ?? false },
  }),
  check({ most = 255, mostWithExtension = 255, plain, notDigitsOnly }, { fileName }) {
    const stem = fileName.replace(/\.[^.]*$/, '');
    const faults = [
      ...(stem.length > most ? [`shorten it by ${stem.length - most}`] : []),
      ...(fileName.length > mostWithExtension ? [`shorten it by ${fileName.length - mostWithExtension}`] : []),
      ...(plain && !/^[A-Za-z0-9_-]+$/.test(stem) ? ['use letters, digits, hyphen and underscore alone'] : []),
      ...(notDigitsOnly && /^\d+$/.test(stem) ? ['put a letter into it'] : []),
    ];
    return { meets: faults.length === 0, found: fileName, mend: faults.join('; ') };
  },
};
