import type { Pcm } from '../audio/index.ts';
import type { BandRecording } from '../dsp/index.ts';
import { encodings } from '../encodings/index.ts';
import { beginningOf } from '../facts/index.ts';
import { asIf, type Evidence, LOOKED_AT, mistakeBetween, mixed, unlikeness } from '../symptoms/index.ts';
import { likelyRates } from './rates.ts';

/** One way in which a device may have played a file. */
export interface Hypothesis {
  /** Stable name; that of the cause where it is one. */
  readonly id: string;
  readonly title: string;
  /** What is heard then, one channel. */
  readonly samples: Float32Array;
  /** Hz at which that is thought to be played. */
  readonly sampleRate: number;
}

/** Shares of a sound that are looked for where not all of it is there; what is missing is then measured. */
const PARTS = [0.85, 0.7, 0.5, 0.3];

const MISTAKES = {
  order: ['wrong-byte-order', 'It took the bytes in the other order'],
  sign: ['wrong-sign', 'It took signed samples for unsigned ones, or the other way round'],
  law: ['wrong-law', 'It took one law for the other'],
  other: ['wrong-encoding', 'It took the samples for another encoding'],
} as const;

async function heard(evidence: Evidence, otherwise: Parameters<typeof asIf>[1]): Promise<Pcm | null> {
  const stream = await asIf(evidence, otherwise);
  return stream && beginningOf(stream, LOOKED_AT);
}

/** Below this share of unlike power two sounds are one to whoever listens. */
const SAME = 0.02;

const isSame = (a: Hypothesis, b: Hypothesis): boolean =>
  a.samples.length === b.samples.length && a.sampleRate === b.sampleRate && unlikeness(a.samples, b.samples) < SAME;

/**
 * The right reading of a file, and everything else that a device may have made of it; what sounds the same is one hypothesis.
 * @param recording in which rates are looked for
 */
export async function hypothesesOf(evidence: Evidence, recording: BandRecording): Promise<readonly Hypothesis[]> {
  const { sound, truth, stated } = evidence;
  if (!sound || !stated || !truth) return [];
  const own = mixed(sound);
  const right: Hypothesis = {
    id: 'right',
    title: 'It played the file as it is',
    samples: own,
    sampleRate: sound.sampleRate,
  };
  const all: Hypothesis[] = [
    right,
    ...PARTS.map((share) => ({
      ...right,
      id: 'cut-off',
      title: 'It left out the end',
      samples: own.subarray(0, Math.round(share * own.length)),
    })),
    ...likelyRates(own, sound.sampleRate, recording).map((rate) => ({
      ...right,
      id: 'wrong-rate',
      title: 'It played the file at another rate',
      sampleRate: rate,
    })),
  ];
  if (truth.plain) {
    const real = truth.plain.encoding;
    for (const { id } of encodings.filter(({ bare }) => bare)) {
      const mistake = mistakeBetween(real.id, id);
      const pcm = mistake && (await heard(evidence, { encoding: id }));
      if (!pcm) continue;
      const [name, title] = MISTAKES[mistake];
      all.push({ id: name, title, samples: mixed(pcm), sampleRate: pcm.sampleRate });
    }
    for (const channels of [1, 2].filter((count) => count !== stated.channels)) {
      const pcm = await heard(evidence, { channels });
      const title = 'It took the channels for another number';
      if (pcm) all.push({ id: 'wrong-channels', title, samples: mixed(pcm), sampleRate: pcm.sampleRate });
    }
  }
  return all.filter((one, i) => !all.slice(0, i).some((other) => isSame(one, other)));
}
