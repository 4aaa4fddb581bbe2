import * as v from 'valibot';
import { MOST_CHANNELS } from '../../audio/index.ts';
import { inForm, wholeWithin } from '../../forms/index.ts';
import { formatChannels, formatChoice } from '../../words/index.ts';
import { narrowChoices } from './narrow.ts';
import { common, type FileRequirementKind, notStated } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('channels'),
  /** Numbers, the preferred one first. */
  anyOf: inForm(v.pipe(v.array(wholeWithin({ least: 1, most: MOST_CHANNELS })), v.minLength(1)), {
    label: 'Numbers, the preferred one first',
    usual: [1],
  }),
});

/** How many channels. */
export const channels: FileRequirementKind<v.InferOutput<typeof schema>> = {
  kind: 'channels',
  scope: 'file',
  station: 'channels',
  schema,
  title: 'channels',
  wanted: ({ anyOf }) => formatChoice(anyOf.map(formatChannels)),
  narrow: narrowChoices,
  demands: ({ anyOf }) => ({ channelCounts: anyOf }),
  check: ({ anyOf }, { facts }) =>
    facts.certainty === 'assumed'
      ? notStated(formatChannels(facts.channels))
      : {
          meets: anyOf.includes(facts.channels),
          found: formatChannels(facts.channels),
          mend: `make it ${formatChannels(anyOf[0])}`,
        },
};
