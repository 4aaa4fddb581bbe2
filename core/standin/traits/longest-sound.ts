import * as v from 'valibot';
import { inForm, oneOf, wholeWithin, within } from '../../forms/index.ts';
import { formatCount, formatSeconds } from '../../words/index.ts';
import { framesOf, type ImpliedRequirement, statedOf, type Trait, withFrames } from '../trait.ts';

const BEYOND = {
  refuses: 'it refuses the file',
  cuts: 'it cuts the rest off',
} as const;

const schema = v.strictObject({
  seconds: v.optional(inForm(within({ least: 0.001, most: 1e6 }), { label: 'At most', unit: 's', usual: 10 })),
  frames: v.optional(inForm(wholeWithin({ least: 1, most: 1e12 }), { label: 'At most', unit: 'frames' })),
  /** Of the file, header and all. */
  bytes: v.optional(inForm(wholeWithin({ least: 1, most: 1e12 }), { label: 'At most', unit: 'bytes' })),
  beyond: inForm(oneOf(BEYOND), { label: 'Beyond that', usual: 'cuts' }),
});

/** By which entry a limit of each kind is said. */
const LIMIT_OF = { duration: 'seconds', frames: 'frames', 'file-size': 'bytes' } as const;

type Longest = v.InferOutput<typeof schema>;

const limits = ({ seconds, frames, bytes }: Longest): readonly string[] => [
  ...(seconds === undefined ? [] : [formatSeconds(seconds)]),
  ...(frames === undefined ? [] : [`${formatCount(frames)} frames`]),
  ...(bytes === undefined ? [] : [`${formatCount(bytes)} bytes`]),
];

/** How long one sound may be, and what happens beyond. */
export const longestSound: Trait<'longest-sound', Longest> = {
  id: 'longest-sound',
  title: 'Longest sound',
  schema,
  words: (value) => `plays ${limits(value).join(', ')} at most; beyond that ${BEYOND[value.beyond]}`,
  implies: ({ seconds, frames, bytes }) => [
    ...(seconds === undefined ? [] : [{ kind: 'duration', most: seconds }]),
    ...(frames === undefined ? [] : [{ kind: 'frames', most: frames }]),
    ...(bytes === undefined ? [] : [{ kind: 'file-size', most: bytes }]),
  ],
  otherwise: (['duration', 'frames', 'file-size'] as const).flatMap((kind) =>
    Object.entries({ refuses: 'refuses the file', cuts: 'cuts the rest off' }).map(([beyond, words]) => ({
      kind,
      words,
      decides: 'beyond',
      value: ({ least, most, multipleOf }: ImpliedRequirement, before: object | undefined) =>
        least === undefined && multipleOf === undefined ? { ...before, [LIMIT_OF[kind]]: most, beyond } : undefined,
    })),
  ),
  needsFrames: true,
  take(value, taken, looked) {
    const stated = statedOf(taken);
    if (!stated) return taken;
    const { seconds = Number.POSITIVE_INFINITY, frames = Number.POSITIVE_INFINITY } = value;
    const { bytes = Number.POSITIVE_INFINITY, beyond } = value;
    const most = Math.min(frames, Math.floor(seconds * stated.sampleRate + 1e-6));
    // Where nobody knows the length, it plays as far as it goes.
    const length = framesOf(taken) ?? Number.POSITIVE_INFINITY;
    const { size } = looked.bytes;
    if (beyond === 'refuses') {
      return (Number.isFinite(length) && length > most) || size > bytes
        ? {
            word: 'too long',
            reason: `It has ${formatSeconds(length / stated.sampleRate)}, ${formatCount(length)} frames and ${formatCount(size)} bytes; the device takes ${limits(value).join(', ')} at most.`,
          }
        : taken;
    }
    const room = size > bytes ? Math.floor((length * bytes) / size) : Number.POSITIVE_INFINITY;
    const kept = Math.min(most, room);
    return kept < length ? withFrames(taken, kept) : taken;
  },
};
