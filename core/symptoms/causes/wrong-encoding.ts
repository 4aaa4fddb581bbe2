import { encodingTitle } from '../../facts/index.ts';
import type { Cause } from '../cause.ts';
import { soundSigns } from '../measures.ts';
import { encodingCause } from '../mistakes.ts';
import { stoppedBy } from '../without.ts';

const MEND = 'encode it as the device reads it';

const taken = encodingCause(
  'other',
  {
    id: 'wrong-encoding',
    title: 'Its samples are of another encoding',
    tellApart: 'It is noise or distortion from the first moment to the last.',
  },
  MEND,
);

export const wrongEncoding: Cause = {
  ...taken,
  async try(evidence) {
    const { truth, stated, played, sound } = evidence;
    const mend = { words: MEND, where: 'job', station: 'wrap', wish: 'automatic' } as const;
    const stopped = await stoppedBy(evidence, 'plays-encodings');
    if (stopped) return { ...stopped, mend };
    const as = evidence.taken?.encoding ?? evidence.player['plays-encodings']?.anyOf[0];
    // What only a library decodes is noise to whoever takes its bytes for samples.
    const isNoise = truth !== null && truth.plain === null && evidence.taken !== null;
    const isAsIf =
      !evidence.taken && stated && evidence.player['plays-encodings']?.anyOf.includes(stated.encoding) === false;
    if ((isNoise || isAsIf) && stated && played && sound && as !== undefined) {
      return {
        signs: isNoise ? { garbled: 0.95, harsh: 0.7, 'garbled-in-rhythm': 0.5 } : soundSigns(played, sound),
        seen: `Its sound is ${encodingTitle(stated.encoding)}; the device takes it for ${encodingTitle(as)}.`,
        mend,
      };
    }
    return taken.try(evidence);
  },
};
