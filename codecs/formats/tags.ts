import type { ByteFile, Tag } from '@tambur/core';
import { ALL_FORMATS, CustomSource, Input } from 'mediabunny';

const NAMES = ['title', 'artist', 'album', 'albumArtist', 'comment', 'genre', 'date', 'trackNumber'] as const;

/** Opens a file with the media library for as long as `use` runs. */
export async function withMedia<T>(file: ByteFile, use: (input: Input) => Promise<T>): Promise<T> {
  const source = new CustomSource({
    getSize: () => file.size,
    read: (start, end) => file.read(start, end).slice(),
    // Without it every header of a frame is a read of its own.
    prefetchProfile: 'fileSystem',
  });
  const input = new Input({ source, formats: ALL_FORMATS });
  try {
    return await use(input);
  } finally {
    input.dispose();
  }
}

/** The tags that the media library finds. */
export const tagsOf = (file: ByteFile): Promise<Tag[]> =>
  withMedia(file, async (input) => {
    const tags = await input.getMetadataTags();
    return NAMES.flatMap((name) => {
      const value = tags[name];
      if (value === undefined) return [];
      return [{ name, value: value instanceof Date ? value.toISOString().slice(0, 10) : String(value) }];
    });
  });
