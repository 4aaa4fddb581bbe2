import * as v from 'valibot';
import { inForm, oneOf, wholeWithin } from '../../forms/index.ts';
import { formatChoice, formatCount } from '../../words/index.ts';
import { inBoth, rangeOfBoth } from './narrow.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const names = v.array(v.pipe(v.string(), v.nonEmpty()));

const RULES = { forbidden: 'forbidden', kept: 'kept from the source', allowed: 'allowed' } as const;

const schema = v.strictObject({
  ...common,
  kind: v.literal('tags'),
  /** Forbidden: no tags and no chunk beside the sound; kept: those of the source; allowed: whatever. */
  rule: inForm(oneOf(RULES), { label: 'Tags and chunks are', usual: 'forbidden' }),
  /** Chunks that may be there although the rest is forbidden, and chunks that must be there. */
  allowed: v.optional(inForm(names, { label: 'Chunks allowed anyway' })),
  required: v.optional(inForm(names, { label: 'Chunks that must be there' })),
  /** Chunks that must not be there although the rest may. */
  forbidden: v.optional(inForm(names, { label: 'Chunks that must not be there' })),
  /** Bytes that all of them may take together. */
  most: v.optional(inForm(wholeWithin({ least: 1, most: 1e9 }), { label: 'Together at most', unit: 'bytes' })),
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
  schema,
  title: 'tags',
  wanted: ({ rule, allowed = [], required = [], forbidden = [], most }) =>
    [
      words[rule],
      ...(rule === 'forbidden' && allowed.length ? [`but ${formatChoice(allowed)} may be there`] : []),
      ...(required.length ? [`with ${required.join(', ')}`] : []),
      ...(forbidden.length ? [`without ${forbidden.join(', ')}`] : []),
      ...(most === undefined ? [] : [`at most ${formatCount(most)} bytes`]),
    ].join(', '),
  narrow(a, b) {
    const rules = [a, b].filter(({ rule }) => rule !== 'allowed');
    const [{ rule } = a] = rules;
    if (rules.some((other) => other.rule !== rule)) return null;
    const strict = rules.filter((one) => one.rule === 'forbidden');
    const allowed = strict
      .map((one) => one.allowed ?? [])
      .reduce((x, y) => inBoth(x, y) ?? [], strict[0]?.allowed ?? []);
    const required = [...new Set([...(a.required ?? []), ...(b.required ?? [])])];
    const forbidden = [...new Set([...(a.forbidden ?? []), ...(b.forbidden ?? [])])];
    if (required.some((name) => forbidden.includes(name) || (rule === 'forbidden' && !allowed.includes(name))))
      return null;
    const { most } = rangeOfBoth({ most: a.most }, { most: b.most }) ?? {};
    const { allowed: _, required: __, forbidden: ___, ...rest } = a;
    return {
      ...rest,
      rule,
      ...(allowed.length ? { allowed } : {}),
      ...(required.length ? { required } : {}),
      ...(forbidden.length ? { forbidden } : {}),
      ...(most === undefined ? {} : { most }),
    };
  },
  demands: ({ rule }) => (rule === 'allowed' ? {} : { tags: rule }),
  check({ rule, allowed = [], required = [], forbidden = [], most }, { facts, sourceTags }) {
    const extras = facts.extras.filter(({ name }) => !allowed.includes(name));
    const parts = [
      ...(facts.tags.length ? [counted(facts.tags.length, 'tag', 'tags')] : []),
      ...facts.extras.map(({ name, bytes }) => `${name} (${counted(bytes, 'byte', 'bytes')})`),
    ];
    const found = parts.join(', ') || 'none';
    const absent = required.filter((name) => !facts.extras.some((extra) => extra.name === name));
    if (absent.length) return { meets: false, found, mend: `add ${absent.join(', ')}` };
    const unwanted = forbidden.filter((name) => facts.extras.some((extra) => extra.name === name));
    if (unwanted.length) return { meets: false, found, mend: `write it again without ${unwanted.join(', ')}` };
    const over = facts.extras.reduce((sum, { bytes }) => sum + bytes, 0) - (most ?? Number.POSITIVE_INFINITY);
    if (over > 0)
      return { meets: false, found, mend: `save ${formatCount(over)} bytes: shorten them, or leave some out` };
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
