import * as v from 'valibot';
import { formatCount } from '../../audio/index.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const schema = v.object({ kind: v.literal('tags'), rule: v.literal('forbidden'), ...common });

const counted = (count: number, one: string, many: string) => `${formatCount(count)} ${count === 1 ? one : many}`;

/** Tags and other bytes beside the sound. */
export const tags: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'tags',
  scope: 'file',
  schema,
  title: 'tags',
  wanted: () => 'none',
  demands: () => ({}),
  check(_, { facts }) {
    const parts = [
      ...(facts.tags.length ? [counted(facts.tags.length, 'tag', 'tags')] : []),
      ...facts.extras.map(({ name, bytes }) => `${name} (${counted(bytes, 'byte', 'bytes')})`),
    ];
    return { meets: parts.length === 0, found: parts.join(', ') || 'none', mend: 'write it again without them' };
  },
};
