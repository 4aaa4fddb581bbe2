import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';

/** SHA-256 in hex. */
export const sha256Of = (bytes: Uint8Array | string): string => createHash('sha256').update(bytes).digest('hex');

/** SHA-256 of a file on the disk, in hex. */
export async function sha256OfFile(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer);
  return hash.digest('hex');
}
