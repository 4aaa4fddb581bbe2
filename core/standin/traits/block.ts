import * as v from 'valibot';
import { type ByteFile, concatenated } from '../../bytes/index.ts';
import type { SoundFile } from '../../containers/index.ts';
import { bytesOf, framesIn, layoutOf } from '../../encodings/index.ts';
import { inForm, oneOf, wholeWithin } from '../../forms/index.ts';
import { formatCount } from '../../words/index.ts';
import type { Trait } from '../trait.ts';

const FILLS = {
  silence: 'silence',
  previous: 'what the block before left there',
  behind: 'whatever lies behind it',
} as const;

const schema = v.strictObject({
  frames: inForm(wholeWithin({ least: 1, most: 1_000_000 }), {
    label: 'It takes at a time',
    unit: 'frames',
    usual: 240,
  }),
  /** What the device plays where a file ends within a block. */
  fill: inForm(oneOf(FILLS), { label: 'It fills the last one with', usual: 'previous' }),
});

/** A memory that nothing was written to holds ones (common practice, no source). */
const EMPTY = 0xff;

/** A file that goes on after its end. */
function followedBy(file: ByteFile, more: Uint8Array): ByteFile {
  const size = file.size + more.length;
  return {
    size,
    read(start, end) {
      const to = Math.min(end, size);
      const own = file.read(start, Math.min(to, file.size));
      if (to <= file.size) return own;
      return concatenated([own, more.subarray(Math.max(0, start - file.size), to - file.size)]);
    },
  };
}

/** A sound as the device takes it: its last block filled. */
export function filledBlock(
  sound: SoundFile,
  { frames, fill }: v.InferOutput<typeof schema>,
  behind: ByteFile | null,
): SoundFile {
  const { encoding, channels, sampleRate, data, codec } = sound;
  const size = bytesOf(encoding, frames, layoutOf(encoding, channels, sampleRate));
  const missing = (size - (data.size % size)) % size;
  if (missing === 0) return sound;
  const more = new Uint8Array(missing).fill(EMPTY);
  if (fill === 'previous') {
    // The block before has the same bytes where this one has none; the first block finds the memory empty.
    const end = data.size - (data.size % size);
    if (end > 0) more.set(data.read(end - missing, end));
  } else if (fill === 'behind') more.set(behind?.read(0, missing) ?? []);
  else more.set(encoding.silence(size).subarray(size - missing));
  const longer = followedBy(data, more);
  return { ...sound, data: longer, frames: framesIn(codec, channels, longer.size) };
}

/** How many frames the device takes at a time. */
export const block: Trait<'block', v.InferOutput<typeof schema>> = {
  id: 'block',
  title: 'Blocks',
  schema,
  words: ({ frames, fill }) =>
    `takes ${formatCount(frames)} frames at a time and fills the last block with ${FILLS[fill]}`,
  implies: ({ frames }) => [{ kind: 'frames', multipleOf: frames, least: frames }],
  otherwise: Object.entries(FILLS).map(([fill, words]) => ({
    kind: 'frames',
    words: `fills the last block with ${words}`,
    decides: 'fill',
    value: ({ multipleOf, most }) => (most === undefined ? { frames: multipleOf, fill } : undefined),
  })),
  take(value, taken, { behind }) {
    return taken.kind === 'samples' ? { kind: 'samples', sound: filledBlock(taken.sound, value, behind) } : taken;
  },
};
