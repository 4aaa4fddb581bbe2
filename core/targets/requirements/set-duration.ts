import * as v from 'valibot';
import { inForm, within } from '../../forms/index.ts';
import { formatSeconds } from '../../words/index.ts';
import { narrowRange } from './narrow.ts';
import { common, type SetRequirementKind } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('set-duration'),
  /** Seconds that all sounds together may last. */
  most: inForm(within({ least: 0.001, most: 1e7 }), { label: 'Together at most', unit: 's', usual: 60 }),
});

/** How long all sounds together may be. */
export const setDuration: SetRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'set-duration',
  scope: 'set',
  schema,
  title: 'duration of the set',
  wanted: ({ most }) => `at most ${formatSeconds(most)} together`,
  narrow: narrowRange,
  demands: ({ most }) => ({ setSeconds: most }),
  check({ most }, { members }) {
    const total = members.reduce((sum, { frames, sampleRate }) => sum + frames / sampleRate, 0);
    return {
      meets: total <= most + 1e-6,
      found: formatSeconds(total),
      mend: `cut ${formatSeconds(total - most)} off its sounds, or remove some`,
    };
  },
};
