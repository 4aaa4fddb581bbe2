import { formatChannels } from '../../words/index.ts';
import type { Cause } from '../cause.ts';
import { soundSigns, speedSigns } from '../measures.ts';
import { heardOtherwise } from '../mistakes.ts';
import { stoppedBy } from '../without.ts';

export const wrongChannels: Cause = {
  id: 'wrong-channels',
  title: 'Its channels are taken for those of another number',
  tellApart: 'Stereo taken for mono is half as fast and rough; mono taken for stereo is twice as fast.',
  async try(evidence) {
    const { stated, sound, taken, played } = evidence;
    const mend = {
      words: 'make it of as many channels as the device plays',
      where: 'job',
      station: 'channels',
      wish: 'automatic',
    } as const;
    const stopped = await stoppedBy(evidence, 'plays-channels');
    if (stopped) return { ...stopped, mend };
    const channels = taken?.channels ?? played?.channels.length;
    if (!stated || !sound || channels === undefined || channels === stated.channels) return null;
    const other = await heardOtherwise(evidence, { channels });
    if (!other) return null;
    return {
      signs: { ...soundSigns(other.pcm, sound), ...speedSigns(channels / stated.channels) },
      seen: `It is ${formatChannels(stated.channels)}; the device takes it for ${formatChannels(channels)}, and plays it ${channels < stated.channels ? 'slower' : 'faster'} by that ratio.`,
      mend,
      heard: other.heard,
    };
  },
};
