import * as v from 'valibot';
import { common, type FileRequirementKind } from './requirement.ts';

const schema = v.strictObject({ ...common, kind: v.literal('stereo-mode'), mode: v.picklist(['joint', 'stereo']) });

const words = { joint: 'joint stereo', stereo: 'stereo' } as const;

/** How two channels are coded in MP3. */
export const stereoMode: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'stereo-mode',
  scope: 'file',
  station: 'wrap',
  usual: { key: 'stereo-mode', kind: 'stereo-mode', mode: 'joint' },
  fields: [
    {
      key: 'mode',
      label: 'Mode',
      type: 'choice',
      options: () => [
        { value: 'joint', label: words.joint },
        { value: 'stereo', label: words.stereo },
      ],
    },
  ],
  schema,
  title: 'stereo mode',
  wanted: ({ mode }) => words[mode],
  demands: ({ mode }) => ({ stereoMode: mode }),
  check({ mode }, { facts }) {
    if (facts.channels === 1) return { meets: false, found: 'mono', mend: `make it stereo, coded as ${words[mode]}` };
    if (facts.jointStereo === null) return { meets: null, found: 'the encoding has no such mode' };
    const found = facts.jointStereo ? 'joint' : 'stereo';
    return { meets: found === mode, found: words[found], mend: `encode it as ${words[mode]}` };
  },
};
