import type * as v from 'valibot';
import { partOf } from '../../bytes/index.ts';
import { framesIn } from '../../encodings/index.ts';
import { inForm, oneOf } from '../../forms/index.ts';
import type { DeviceReading, Trait } from '../trait.ts';

const WORDS = {
  skips: 'skips chunks and tags that it does not know',
  refuses: 'refuses files with chunks or tags beside the sound',
  plays: 'plays chunks and tags as if they were sound',
} as const;

const schema = inForm(oneOf(WORDS), { label: 'It', usual: 'skips' });

/** A device that looks for nothing begins to play after so many bytes: the shortest header of a WAV file. */
export const SHORTEST_HEADER = 44;

const hasExtras = (taken: DeviceReading): boolean => {
  if (taken.kind === 'bare') return false;
  const { tags, extras } = taken.kind === 'samples' ? taken.sound : taken.stream.stated;
  return tags.length + extras.length > 0;
};

/** What the device does with whatever stands in a file beside its format and its sound. */
export const extraChunks: Trait<'extra-chunks', v.InferOutput<typeof schema>> = {
  id: 'extra-chunks',
  title: 'Chunks and tags beside the sound',
  schema,
  words: (value) => WORDS[value],
  // Bare samples have nothing beside them.
  implies: (value, { reads }) => (value === 'skips' || reads === 'bare' ? [] : [{ kind: 'tags', rule: 'forbidden' }]),
  otherwise: Object.entries({ refuses: 'refuses the file', plays: 'plays them as if they were sound' }).map(
    ([value, words]) => ({
      kind: 'tags',
      words,
      decides: '',
      value: ({ rule, allowed, required }) => (rule === 'forbidden' && !allowed && !required ? value : undefined),
    }),
  ),
  trouble: {
    id: 'chunk-refused',
    title: 'There are chunks or tags beside its sound',
    tellApart: 'The same sound without tags plays.',
    remedy: { words: 'write it again without tags and chunks', where: 'job', station: 'wrap', wish: 'automatic' },
  },
  take(value, taken, { bytes }) {
    if (value === 'refuses' && hasExtras(taken)) {
      return { word: 'unsupported', reason: 'The file has chunks or tags beside its sound.' };
    }
    if (value !== 'plays' || taken.kind !== 'samples' || taken.sound.data.size === bytes.size) return taken;
    const { sound } = taken;
    const data = partOf(bytes, Math.min(SHORTEST_HEADER, bytes.size), bytes.size);
    return { kind: 'samples', sound: { ...sound, data, frames: framesIn(sound.codec, sound.channels, data.size) } };
  },
};
