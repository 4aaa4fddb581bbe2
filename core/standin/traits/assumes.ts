import * as v from 'valibot';
import { LARGEST_RATE, MOST_CHANNELS } from '../../audio/index.ts';
import { headerless } from '../../containers/index.ts';
import { blockEncodings, encodings, findEncoding } from '../../encodings/index.ts';
import { encodingTitle } from '../../facts/index.ts';
import { inForm, wholeWithin, within } from '../../forms/index.ts';
import { formatRate, messageOf } from '../../words/index.ts';
import type { Trait } from '../trait.ts';

const schema = v.strictObject({
  encoding: inForm(
    v.pipe(
      v.string(),
      v.check((id) => findEncoding(id) !== undefined, 'there is no such encoding of samples'),
    ),
    {
      label: 'Encoding',
      options: () => [...encodings, ...blockEncodings].map(({ id, title }) => ({ value: id, label: title })),
      usual: encodings[0]?.id ?? '',
    },
  ),
  /** Hz; left out if the device plays everything at one rate, as another trait says then. */
  sampleRate: v.optional(inForm(within({ least: 1, most: LARGEST_RATE }), { label: 'Rate', unit: 'Hz', usual: 8000 })),
  channels: inForm(wholeWithin({ least: 1, most: MOST_CHANNELS }), { label: 'Channels', usual: 1 }),
});

/** What the device takes samples for that come without a header. */
export const assumes: Trait<'assumes', v.InferOutput<typeof schema>> = {
  id: 'assumes',
  title: 'What it takes bare samples for',
  schema,
  words: ({ encoding, sampleRate, channels }) =>
    `takes bare samples for ${[
      encodingTitle(encoding),
      ...(sampleRate === undefined ? [] : [formatRate(sampleRate)]),
      channels === 1 ? 'mono' : `${channels} channels`,
    ].join(', ')}`,
  implies: ({ encoding, sampleRate, channels }, { reads, timer, 'plays-at': playsAt }) =>
    reads === 'bare'
      ? [
          { kind: 'encoding', anyOf: [encoding] },
          { kind: 'channels', anyOf: [channels] },
          ...(sampleRate === undefined || timer !== undefined || playsAt !== undefined
            ? []
            : [{ kind: 'sample-rate', anyOf: [sampleRate] }]),
        ]
      : [],
  reveals: (_, { reads }) => (reads === 'bare' ? ['sample-rate', 'timer-rate', 'bit-depth', 'byte-layout'] : []),
  take(_, taken, { bareReading }) {
    if (taken.kind !== 'bare' || !bareReading) return taken;
    try {
      // What is left over at the end is no whole frame yet: more bytes may follow.
      return { kind: 'samples', sound: { ...headerless.read(taken.bytes, bareReading), data: taken.bytes } };
    } catch (error) {
      return { word: 'no sound', reason: messageOf(error) };
    }
  },
};
