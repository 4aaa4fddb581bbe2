import * as v from 'valibot';
import { findOutContainer, outContainers } from '../containers/index.ts';
import { anyEncoding, blockEncodings, compressedEncodings, encodings } from '../encodings/index.ts';

/** Encodings that have a name of their own; PCM has many more. */
export const namedEncodings = (): readonly { readonly id: string; readonly title: string }[] => [
  ...encodings,
  ...blockEncodings,
  ...compressedEncodings,
];

const listed = (entries: readonly { readonly id: string }[]): string => entries.map(({ id }) => id).join(', ');

/** The id of a container that can be written, in a sheet or a setting. */
export const containerId = v.pipe(
  v.string(),
  v.check(
    (id) => findOutContainer(id) !== undefined,
    () => `there is no such container; there are ${listed(outContainers())}`,
  ),
);

/** The id of an encoding that can be written. */
export const encodingId = v.pipe(
  v.string(),
  v.check(
    (id) => (anyEncoding(id)?.kind ?? 'foreign') !== 'foreign',
    () => `there is no such encoding; there are ${listed(namedEncodings())}, and PCM of 1 to 32 bits in any layout`,
  ),
);
