import type * as v from 'valibot';
import { headerless } from '../../containers/index.ts';
import { inForm, oneOf } from '../../forms/index.ts';
import type { Trait } from '../trait.ts';

const WORDS = {
  header: 'reads the header',
  bare: 'takes every byte as a sample',
  either: 'reads the header where there is one, and else takes every byte as a sample',
} as const;

const schema = inForm(oneOf(WORDS), { label: 'It', usual: 'header' });

/** Whether the device reads what a file says of itself, or takes all of its bytes for samples. */
export const reads: Trait<'reads', v.InferOutput<typeof schema>> = {
  id: 'reads',
  title: 'How it reads files',
  schema,
  words: (value) => WORDS[value],
  // A text is compiled into bare samples before the device has it.
  implies: (value, { compiles }) =>
    value === 'bare' && compiles === undefined ? [{ kind: 'container', anyOf: [headerless.id] }] : [],
  trouble: {
    id: 'no-header',
    title: 'It has no header that says what its sound is',
    tellApart: 'The device plays files that begin with a header.',
    remedy: { words: 'write it with a header', where: 'job', station: 'wrap', wish: 'automatic' },
  },
  take: (value, taken, { bytes }) => {
    if (value === 'bare') return { kind: 'bare', bytes };
    return taken.kind === 'bare' && value === 'header'
      ? { word: 'no sound', reason: 'The file has no header that says what its sound is.' }
      : taken;
  },
};
