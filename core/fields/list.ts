import { aiff } from './aiff.ts';
import { au } from './au.ts';
import { caf } from './caf.ts';
import type { FieldReader } from './field-list.ts';
import { flac } from './flac.ts';
import { mp4 } from './mp4.ts';
import { mpeg } from './mpeg.ts';
import { ogg } from './ogg.ts';
import { riff } from './riff.ts';

/** Every kind of file whose fields are known. */
export const fieldReaders: readonly FieldReader[] = [riff, aiff, au, caf, flac, ogg, mp4, mpeg];
