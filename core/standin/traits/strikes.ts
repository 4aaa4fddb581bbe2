import * as v from 'valibot';
import { inForm, oneOf, wholeWithin } from '../../forms/index.ts';
import type { StrikeEffect, Trait } from '../trait.ts';

const VELOCITY = { fixed: 'equally loud, however it is struck', follows: 'louder, the harder it is struck' } as const;

const EFFECTS = { length: 'how long it plays', pitch: 'how high it plays' } as const satisfies Record<
  StrikeEffect,
  string
>;

const schema = v.strictObject({
  velocity: inForm(oneOf(VELOCITY), { label: 'A sound is', usual: 'follows' }),
  /** Sounds at once; a further one ends the oldest. */
  voices: inForm(wholeWithin({ least: 1, most: 64 }), { label: 'At once', unit: 'sounds', usual: 8 }),
  /** What else a strike changes, if the device is set to. */
  canChange: v.optional(
    inForm(v.pipe(v.array(oneOf(EFFECTS)), v.minLength(1)), {
      label: 'If it is set to, a strike changes as well',
      options: () => Object.entries(EFFECTS).map(([value, label]) => ({ value, label })),
      usual: ['pitch'],
    }),
  ),
  /** Groups in each of which one sound ends the one before. */
  muteGroups: v.optional(
    inForm(wholeWithin({ least: 1, most: 64 }), { label: 'Mute groups', unit: 'groups', usual: 8 }),
  ),
});

/** What the softest strike takes from the pitch, where the device is set to that: an octave (from memory). */
const SOFTEST_SEMITONES = 12;

/**
 * How loud a struck sound is: amplitude follows the square of the velocity (the concave transform of Downloadable Sounds
 * Level 1, from memory). Where the device is set to it, a soft strike is shorter or lower too.
 */
export const strikes: Trait<'strikes', v.InferOutput<typeof schema>> = {
  id: 'strikes',
  title: 'How it answers to strikes',
  schema,
  words: ({ velocity, voices, canChange, muteGroups }) =>
    [
      `plays sounds ${VELOCITY[velocity]}, ${voices === 1 ? 'one at a time' : `${voices} at once`}`,
      ...(canChange ? [`can be set so that a strike changes ${canChange.map((id) => EFFECTS[id]).join(' and ')}`] : []),
      ...(muteGroups ? [`has ${muteGroups} mute groups, in each of which a sound ends the one before`] : []),
    ].join('; '),
  steps: ({ canChange = [], muteGroups }) => [
    ...(canChange.includes('pitch')
      ? [
          {
            at: ['pitch-by-strike' as const],
            words: 'Set the device so that a strike does not change the pitch, or is always equally strong.',
          },
        ]
      : []),
    ...(canChange.includes('length')
      ? [{ at: ['cut-off' as const], words: 'Strike it hard: the device may be set to end a soft strike sooner.' }]
      : []),
    ...(muteGroups
      ? [{ at: ['cut-off' as const], words: 'Take its pad out of the mute group: another pad of the group ends it.' }]
      : []),
  ],
  needsFrames: true,
  moment({ velocity: kind, canChange = [] }, { velocity, byStrike }) {
    const does = (effect: StrikeEffect) => canChange.includes(effect) && byStrike.includes(effect);
    return {
      ...(kind === 'fixed' ? {} : { gain: velocity ** 2 }),
      ...(does('pitch') ? { semitones: -SOFTEST_SEMITONES * (1 - velocity) } : {}),
      ...(does('length') ? { share: velocity } : {}),
    };
  },
};
