import { formatCount, formatSeconds } from '../../words/index.ts';
import type { Cause } from '../cause.ts';

export const headerPlayed: Cause = {
  id: 'header-played',
  title: 'Its header is played as sound',
  tellApart: 'A short burst before the sound, always the same one.',
  try({ truth, taken, played, player, file }) {
    if (truth?.how !== 'stated' || !taken || truth.inFront === 0) return null;
    const perSecond = played?.channels[0]?.length
      ? (file.bytes.size / played.channels[0].length) * played.sampleRate
      : 0;
    const seconds = perSecond ? truth.inFront / perSecond : 0;
    return {
      signs: { 'click-at-start': 0.95, garbled: 0.2 },
      seen: `The file begins with a header of ${formatCount(truth.inFront)} bytes. This device reads ${player.reads === 'bare' ? 'no headers' : 'none there'} and plays it as ${formatSeconds(seconds)} of sound.`,
      mend: { words: 'write the bare samples, without a header', where: 'job', station: 'wrap', wish: 'automatic' },
    };
  },
};
