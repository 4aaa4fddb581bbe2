import * as v from 'valibot';
import { MOST_CHANNELS } from '../../audio/index.ts';
import { inForm, wholeWithin } from '../../forms/index.ts';
import { formatChannels, formatChoice } from '../../words/index.ts';
import { othersChoices, othersSchema, othersWords, statedOf, type Trait, takenAs, unknownTo } from '../trait.ts';

const schema = v.strictObject({
  /** The first is how others are played. */
  anyOf: inForm(v.pipe(v.array(wholeWithin({ least: 1, most: MOST_CHANNELS })), v.minLength(1)), {
    label: 'One of',
    usual: [1],
  }),
  others: inForm(othersSchema, { label: 'Others', usual: 'refuses' }),
});

const words = (counts: readonly number[]) => formatChoice(counts.map(formatChannels));

/** How many channels it plays, and what it does with others: samples in turn are taken for those of fewer or more channels. */
export const playsChannels: Trait<'plays-channels', v.InferOutput<typeof schema>> = {
  id: 'plays-channels',
  title: 'Channels that it plays',
  schema,
  words: ({ anyOf, others }) =>
    `plays ${words(anyOf)} and ${othersWords(others, 'files of other channels', words(anyOf.slice(0, 1)))}`,
  implies: ({ anyOf }, { reads }) => (reads === 'bare' ? [] : [{ kind: 'channels', anyOf }]),
  otherwise: othersChoices('channels'),
  take({ anyOf, others }, taken) {
    const stated = statedOf(taken);
    if (taken.kind === 'bare' || !stated || anyOf.includes(stated.channels)) return taken;
    const [channels = 1] = anyOf;
    if (others === 'as-if' && taken.kind === 'samples') {
      return { kind: 'samples', sound: takenAs(taken.sound, { channels }) };
    }
    const reason = `It is ${formatChannels(stated.channels)}; the device plays ${words(anyOf)}.`;
    return unknownTo(others === 'silent' ? 'silent' : 'refuses', taken, reason);
  },
};
