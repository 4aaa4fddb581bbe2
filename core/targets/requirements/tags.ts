import * as v from 'valibot';
import { formatChoice, formatCount } from '../../words/index.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const names = v.optional(v.array(v.pipe(v.string(), v.nonEmpty())));

const schema = v.strictObject({
  ...common,
  kind: v.literal('tags'),
  /** Forbidden: no tags and no chunk beside the sound; kept: those of the source; allowed: whatever. */
  rule: v.picklist(['forbidden', 'kept', 'allowed']),
  /** Chunks that may be there although the rest is forbidden, and chunks that must be there. */
  allowed: names,
  required: names,
});

const counted = (count: number, one: string, many: string) => `${formatCount(count)} ${count === 1 ? one : many}`;

/** Tags that every container has a place for. */
const COMMON_TAGS = ['title', 'artist', 'album', 'comment'];

const words = { forbidden: 'none', kept: 'those of the source', allowed: 'any' } as const;

/** Tags and other bytes beside the sound. */
export const tags: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'tags',
  scope: 'file',
  station: 'wrap',
  usual: { key: 'tags', kind: 'tags', rule: 'forbidden' },
  fields: [
    {
      key: 'rule',
      label: 'Tags and chunks are',
      type: 'choice',
      options: () => [
        { value: 'forbidden', label: 'forbidden' },
        { value: 'kept', label: 'kept from the source' },
        { value: 'allowed', label: 'allowed' },
      ],
    },
    { key: 'allowed', label: 'Chunks allowed anyway', type: 'list', optional: true },
    { key: 'required', label: 'Chunks that must be there', type: 'list', optional: true },
  ],
  schema,
  title: 'tags',
  wanted: ({ rule, allowed = [], required = [] }) =>
    [
      words[rule],
      ...(rule === 'forbidden' && allowed.length ? [`but ${formatChoice(allowed)} may be there`] : []),
      ...(required.length ? [`with ${required.join(', ')}`] : []),
    ].join(', '),
  covers: ({ rule }, implied) => rule === implied.rule,
  demands: ({ rule }) => (rule === 'allowed' ? {} : { tags: rule }),
  check({ rule, allowed = [], required = [] }, { facts, sourceTags }) {
    const extras = facts.extras.filter(({ name }) => !allowed.includes(name));
    const parts = [
      ...(facts.tags.length ? [counted(facts.tags.length, 'tag', 'tags')] : []),
      ...facts.extras.map(({ name, bytes }) => `${name} (${counted(bytes, 'byte', 'bytes')})`),
    ];
    const found = parts.join(', ') || 'none';
    const absent = required.filter((name) => !facts.extras.some((extra) => extra.name === name));
    if (absent.length) return { meets: false, found, mend: `add ${absent.join(', ')}` };
    if (rule === 'allowed') return { meets: true, found };
    if (rule === 'forbidden') {
      const isClean = extras.length === 0 && (facts.tags.length === 0 || allowed.length > 0);
      return { meets: isClean, found, mend: 'write it again without them' };
    }
    if (!sourceTags) return { meets: null, found };
    const lost = sourceTags.filter(
      ({ name, value }) =>
        COMMON_TAGS.includes(name) && !facts.tags.some((tag) => tag.name === name && tag.value === value),
    );
    return { meets: lost.length === 0, found, mend: `write ${lost.map(({ name }) => name).join(', ')} again` };
  },
};
