import * as v from 'valibot';
import { inForm, wholeWithin } from '../../forms/index.ts';
import { formatCount } from '../../words/index.ts';
import { narrowRange } from './narrow.ts';
import { common, type SetRequirementKind } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('set-size'),
  /** Bytes of encoded samples that all files together may take. */
  most: inForm(wholeWithin({ least: 1, most: 1e12 }), { label: 'At most', unit: 'bytes', usual: 65_536 }),
});

/** The memory budget of the whole set. */
export const setSize: SetRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'set-size',
  scope: 'set',
  schema,
  title: 'set size',
  wanted: ({ most }) => `at most ${formatCount(most)} bytes`,
  narrow: narrowRange,
  demands: ({ most }) => ({ setBytes: most }),
  check({ most }, { members, canBeSlower }) {
    // What counts is the memory of the device: the samples, not the text around them.
    const total = members.reduce((sum, { soundBytes, bytes }) => sum + (soundBytes ?? bytes), 0);
    return {
      meets: total <= most,
      found: `${formatCount(total)} bytes`,
      mend: `save ${formatCount(total - most)} bytes: cut clips shorter${canBeSlower ? ' or lower their rate' : ''}`,
    };
  },
};
