import { type ByteFile, InputError } from '../audio/index.ts';
import { outContainerOf } from '../containers/index.ts';
import { readPlain } from '../facts/index.ts';
import { insert, type OpenForeign, type Playing } from './device.ts';
import type { Player } from './player.ts';

/** A finished file, and in which container it is. */
export interface FinishedFile {
  readonly path: string;
  readonly bytes: ByteFile;
  readonly container: string;
}

/**
 * What a device plays of a file that is alone on its card.
 * @throws InputError with code `not-audio` where the device does not show it
 */
export async function playAlone(
  { path, bytes, container }: FinishedFile,
  player: Player,
  openForeign: OpenForeign,
): Promise<Playing> {
  // Of source code the samples alone come into the device's memory.
  const seen = outContainerOf(container).textOptions ? readPlain(bytes).data : bytes;
  const device = await insert([{ path, bytes: seen }], { player, lists: [], packs: [] }, openForeign);
  const [first] = device.shown;
  if (!first) throw new InputError('not-audio', device.refused[0]?.reason ?? 'The device does not show it.');
  return device.play(first.file.path);
}
