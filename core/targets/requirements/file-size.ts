import * as v from 'valibot';
import { inForm, wholeWithin } from '../../forms/index.ts';
import { formatCount } from '../../words/index.ts';
import { narrowRange } from './narrow.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('file-size'),
  /** Bytes of the whole file, its header too. */
  most: inForm(wholeWithin({ least: 1, most: 1e12 }), { label: 'At most', unit: 'bytes', usual: 64_000 }),
});

/** How large the file may be. */
export const fileSize: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'file-size',
  scope: 'file',
  station: 'rate',
  isOfWhole: true,
  schema,
  title: 'file size',
  wanted: ({ most }) => `at most ${formatCount(most)} bytes`,
  narrow: narrowRange,
  demands: ({ most }) => ({ fileBytes: most }),
  check: ({ most }, { facts, canBeSlower }) => ({
    meets: facts.bytes <= most,
    found: `${formatCount(facts.bytes)} bytes`,
    mend: `save ${formatCount(facts.bytes - most)} bytes: cut it shorter${canBeSlower ? ' or lower its rate' : ''}`,
  }),
};
