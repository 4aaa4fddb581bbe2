import * as v from 'valibot';
import { inForm } from '../../forms/index.ts';
import { formatSeconds } from '../../words/index.ts';
import { common, type FileRequirementKind } from './requirement.ts';

const seconds = v.pipe(v.number(), v.minValue(0.001), v.maxValue(86_400));

const schema = v.strictObject({
  ...common,
  kind: v.literal('place-duration'),
  /** Seconds at most: of the first place, of the second, and so on. Places after the last of them are not limited. */
  most: inForm(v.pipe(v.array(seconds), v.minLength(1), v.maxLength(1000)), {
    label: 'At most, by places in their order',
    unit: 's',
    usual: [4, 2.5],
  }),
});

/**
 * How long the sound of each place may be. For a clip whose places are known it is a limit of its duration (`sheetForClip`); of a file
 * alone nobody knows where it is to play.
 */
export const placeDuration: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'place-duration',
  scope: 'file',
  station: 'cut',
  isOfWhole: true,
  schema,
  title: 'duration by place',
  wanted: ({ most }) => `at most ${most.map(formatSeconds).join(', ')}`,
  demands: () => ({}),
  check: ({ most }, { facts }) => {
    const length = facts.frames / facts.sampleRate;
    const found = formatSeconds(length);
    // What is shorter than all of them suits every place, and what is longer than all of them none that is limited.
    return length <= Math.min(...most)
      ? { meets: true, found }
      : { meets: null, found: `${found}; the file does not say at which place it plays` };
  },
};
