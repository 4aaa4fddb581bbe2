import * as v from 'valibot';
import { inForm, oneOf } from '../../forms/index.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const WORDS = { joint: 'joint stereo', stereo: 'stereo' } as const;

const schema = v.strictObject({
  ...common,
  kind: v.literal('stereo-mode'),
  mode: inForm(oneOf(WORDS), { label: 'Mode', usual: 'joint' }),
});

/** How two channels are coded in MP3. */
export const stereoMode: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'stereo-mode',
  scope: 'file',
  station: 'wrap',
  schema,
  title: 'stereo mode',
  wanted: ({ mode }) => WORDS[mode],
  demands: ({ mode }) => ({ stereoMode: mode }),
  check({ mode }, { facts }) {
    if (facts.channels === 1) return { meets: false, found: 'mono', mend: `make it stereo, coded as ${WORDS[mode]}` };
    if (facts.jointStereo === null) return { meets: null, found: 'the encoding has no such mode' };
    const found = facts.jointStereo ? 'joint' : 'stereo';
    return { meets: found === mode, found: WORDS[found], mend: `encode it as ${WORDS[mode]}` };
  },
};
