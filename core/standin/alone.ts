import type { ByteFile } from '../bytes/index.ts';
import type { SoundStream } from '../facts/index.ts';
import { InputError } from '../words/index.ts';
import { type OpenForeign, type Playing, playingOf, takeFile } from './device.ts';
import type { Player } from './player.ts';
import { isRefusal } from './trait.ts';

/**
 * What a device plays of a file, wherever that is and whatever it is called.
 * @throws InputError with code `not-audio` if the device refuses it
 */
export async function playAlone(bytes: ByteFile, player: Player, openForeign: OpenForeign): Promise<Playing> {
  const taken = await takeFile(bytes, null, player, openForeign);
  if (isRefusal(taken)) throw new InputError('not-audio', taken.reason);
  return playingOf(taken, player);
}

/** A sound that is already what the device takes it for, through its loudspeaker. */
export const ofStream = (stream: SoundStream, player: Player): Playing =>
  playingOf({ kind: 'decoded', stream, frames: null }, player);
