import type { Pcm } from '../audio/index.ts';
import type { Reading } from '../containers/index.ts';
import { findEncoding, type PlainEncoding } from '../encodings/index.ts';
import { beginningOf, encodingTitle } from '../facts/index.ts';
import { ofStream, type Playing } from '../standin/index.ts';
import type { Cause, Suspicion } from './cause.ts';
import { asIf, type Evidence, LOOKED_AT } from './evidence.ts';
import { soundSigns } from './measures.ts';

/** How one encoding is taken for another. */
type Mistake = 'order' | 'sign' | 'law' | 'other';

const isLaw = (encoding: PlainEncoding) => encoding.kind === 'integer' && encoding.companded;

/** Null if both are the same, or one of them is of no plain samples. */
export function mistakeBetween(real: string, taken: string): Mistake | null {
  const [a, b] = [findEncoding(real), findEncoding(taken)];
  if (!a || !b || a.id === b.id) return null;
  if (isLaw(a) && isLaw(b)) return 'law';
  const [x, y] = [a.byteLayout, b.byteLayout];
  if (!x || !y || a.bitDepth !== b.bitDepth || x.packing !== y.packing || isLaw(a) || isLaw(b)) return 'other';
  if (x.order !== y.order && x.sign === y.sign) return 'order';
  if (x.sign !== y.sign && x.order === y.order) return 'sign';
  return 'other';
}

/** What is heard, and how it sounds, where these things about the samples are taken otherwise than they are. */
export async function heardOtherwise(
  evidence: Evidence,
  otherwise: Partial<Reading>,
): Promise<{ readonly pcm: Pcm; readonly heard: () => Playing } | null> {
  const stream = await asIf(evidence, otherwise);
  return stream && { pcm: await beginningOf(stream, LOOKED_AT), heard: () => ofStream(stream, evidence.player) };
}

/** A cause that is one kind of mistake about the encoding. */
export function encodingCause(kind: Mistake, words: Pick<Cause, 'id' | 'title' | 'tellApart'>, mend: string): Cause {
  return {
    ...words,
    async try(evidence): Promise<Suspicion | null> {
      const { truth, taken, sound } = evidence;
      if (!truth?.plain || !taken || !sound) return null;
      const real = truth.plain.encoding.id;
      if (mistakeBetween(real, taken.encoding) !== kind) return null;
      const other = await heardOtherwise(evidence, { encoding: taken.encoding });
      if (!other) return null;
      return {
        signs: soundSigns(other.pcm, sound),
        seen: `${truth.how === 'stated' ? 'The file says that its samples are' : 'By its bytes, its samples are'} ${encodingTitle(real)}; the device takes them for ${encodingTitle(taken.encoding)}.`,
        mend: { words: mend, where: 'job', station: 'wrap', wish: 'automatic' },
        heard: other.heard,
      };
    },
  };
}
