import { InputError } from '../audio/index.ts';
import { compiled } from '../facts/index.ts';
import type { CardFile } from './card.ts';
import { insert, type OpenForeign, type Playing } from './device.ts';
import type { Player } from './player.ts';

/**
 * What a device plays of a file that is alone on its card.
 * @throws InputError with code `not-audio` where the device does not show it
 */
export async function playAlone({ path, bytes }: CardFile, player: Player, openForeign: OpenForeign): Promise<Playing> {
  // Of source code the samples alone come into the device's memory.
  const device = await insert([{ path, bytes: compiled(bytes) }], { player, lists: [], packs: [] }, openForeign);
  const [first] = device.shown;
  if (!first) throw new InputError('not-audio', device.refused[0]?.reason ?? 'The device does not show it.');
  return device.play(first.file.path);
}
