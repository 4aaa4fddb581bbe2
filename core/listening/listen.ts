import type { Pcm } from '../audio/index.ts';
import {
  BANDS_HOP,
  BANDS_RATE,
  type BandLevels,
  type BandMatch,
  type BandRecording,
  bandLevels,
  bandStart,
  findInBands,
  listened,
  resample,
} from '../dsp/index.ts';
import { type Evidence, gather, mixed, ownRate, type Situation } from '../symptoms/index.ts';
import { formatRate, InputError } from '../words/index.ts';
import { added } from './added.ts';
import { type Hypothesis, hypothesesOf } from './hypotheses.ts';
import { type Alignment, edged, likenessAt, refined } from './refine.ts';
import { type Structure, structureOf } from './structure.ts';

/** What a device did with a file, concluded from a recording. */
export interface Conclusion {
  readonly hypothesis: string;
  readonly title: string;
  /** 0..1. */
  readonly confidence: number;
}

export interface ListeningReport extends Partial<Structure> {
  /** `no-match` where the recording is of something else. */
  readonly best: Conclusion;
  readonly runnerUp: Conclusion | null;
  /** Hz at which the device really plays; null if nothing was found. */
  readonly sampleRate: number | null;
  /** Seconds of the recording before the sound. */
  readonly delay: number | null;
  /** Hz between which something of the sound is heard. */
  readonly band: { readonly low: number; readonly high: number } | null;
  /** True if the recording itself is overdriven. */
  readonly isClipped: boolean;
}

interface Trial {
  readonly hypothesis: Hypothesis;
  readonly match: BandMatch;
  readonly levels: BandLevels;
  /** At `BANDS_RATE`, as it is thought to be played. */
  readonly samples: Float32Array;
}

interface Ranked extends Trial {
  readonly placed: Alignment | null;
  /** How alike in bands and in waves. */
  readonly score: number;
}

/** Hypotheses of which the waves are looked at. */
const LOOKED_AT = 6;
/** Of the likeliest: searched for again; others of its length lie where it lies. */
const SEARCHED = 3;
/** Among so many rates one is alike by chance: it has to be more alike than a mistake, of which there are few. */
const RATE_MARGIN = 0.15;
/** Exactly half as fast is what two channels taken for one sound like. */
const HALF_MARGIN = 0.35;
/** Less alike than that, and it is another sound. */
const LEAST_SCORE = 0.9;
const LEAST_LIKENESS = 0.25;
const CLEAR_SCORE = 0.9;
const CLEAR_MARGIN = 0.05;
/** Hz: what is recorded at less holds no sound that could be recognised. */
const LEAST_RATE = 1000;
/** Seconds of the recording that are listened to. */
export const MOST_SECONDS = 60;

const NO_MATCH = { hypothesis: 'no-match', title: 'The recording is of another sound', confidence: 0.9 };

/** Samples of which the loudest reach full scale this often are overdriven. */
const CLIPPED_SHARE = 1e-3;

/** What a device did with a file, from a recording of it. */
export const listen = async (situation: Situation, recording: Pcm): Promise<ListeningReport> =>
  heardFrom(await gather(situation), recording);

/** The same, from evidence that is there already. */
export async function heardFrom(evidence: Evidence, { sampleRate, channels }: Pcm): Promise<ListeningReport> {
  if (sampleRate < LEAST_RATE) {
    throw new InputError(
      'bad-setting',
      `The recording is at ${formatRate(sampleRate)}, too low to hear anything in; record at ${formatRate(8000)} or more.`,
    );
  }
  const cut = channels.map((samples) => samples.subarray(0, MOST_SECONDS * sampleRate));
  const mono = mixed({ sampleRate, channels: cut });
  const recording = resample(mono, sampleRate, BANDS_RATE);
  const isClipped = mono.filter((value) => Math.abs(value) > 0.999).length > CLIPPED_SHARE * mono.length;
  const inBands = listened(recording);
  const tried = (await hypothesesOf(evidence, inBands)).map((hypothesis): Trial => {
    const samples = resample(hypothesis.samples, Math.round(hypothesis.sampleRate), BANDS_RATE);
    const levels = bandLevels(samples);
    return { hypothesis, samples, levels, match: findInBands(levels, inBands) };
  });
  const ranked = ranking(tried, recording);
  const [best] = ranked;
  // Another rate of the same kind is no other answer.
  const second = ranked.find(({ hypothesis }) => hypothesis.id !== best?.hypothesis.id);
  const nothing = { best: NO_MATCH, runnerUp: null, sampleRate: null, delay: null, band: null, isClipped };
  if (!best || !isFound(best, ranked)) return nothing;
  const pace = best.placed?.pace ?? 1 / best.match.stretch;
  // What is missing is missing of all of it.
  const whole =
    best.hypothesis.id === 'cut-off' ? (tried.find(({ hypothesis }) => hypothesis.id === 'right') ?? best) : best;
  const structure = structureOf(whole.levels, inBands, best.match);
  const verdict = named(best, structure, await added(evidence, best, recording));
  const margin = second ? best.score - second.score : 1;
  const playedAt = best.hypothesis.sampleRate / pace;
  return {
    best: { ...(madeForAnother(evidence, playedAt) ?? verdict), confidence: confidenceOf(margin, best.score) },
    runnerUp: second
      ? {
          hypothesis: second.hypothesis.id,
          title: second.hypothesis.title,
          confidence: 1 - confidenceOf(margin, best.score),
        }
      : null,
    sampleRate: playedAt,
    delay: (best.placed?.delay ?? best.match.offset * BANDS_HOP) / BANDS_RATE,
    band: bandOf(inBands),
    isClipped,
    ...structure,
  };
}

/** Rates that are nearer to each other are one: clocks are off by less. */
const SAME_RATE = 0.02;

/** What is played as it is taken is wrong all the same if it was made for another rate: its source tells that of bare samples. */
function madeForAnother(
  { truth, sound, situation: { source } }: Evidence,
  playedAt: number,
): Omit<Conclusion, 'confidence'> | null {
  if (!source || !sound || truth?.how === 'stated') return null;
  const madeFor = ownRate(sound, source);
  if (madeFor === null || Math.abs(playedAt / madeFor - 1) < SAME_RATE) return null;
  return {
    hypothesis: 'wrong-rate',
    title: `It was made for ${formatRate(madeFor)} and is played at ${formatRate(Math.round(playedAt))}`,
  };
}

/** Alike in its waves, or so much more alike in its bands than anything else that the waves need not be seen. */
function isFound(best: Ranked, ranked: readonly Ranked[]): boolean {
  if ((best.placed?.likeness ?? 0) >= LEAST_LIKENESS) return best.score >= LEAST_SCORE;
  // A rate that was looked for is found for many a sound that is no other one.
  const next = ranked.find(({ hypothesis: { id } }) => id !== best.hypothesis.id && id !== 'wrong-rate');
  return best.match.score >= CLEAR_SCORE && best.match.score - (next?.match.score ?? 0) >= CLEAR_MARGIN;
}

function ranking(tried: readonly Trial[], recording: Float32Array): readonly Ranked[] {
  // That it played the file as it is comes first, whatever else looks alike.
  const isRight = ({ hypothesis }: Trial) => hypothesis.id === 'right';
  const others = tried.filter((one) => !isRight(one)).toSorted((a, b) => b.match.score - a.match.score);
  const likely = [...tried.filter(isRight), ...others.slice(0, LOOKED_AT)];
  const ranked: Ranked[] = [];
  const edges = edged(recording);
  for (const one of likely) {
    // Where another one of the same length has been found, this one would lie there as well.
    const beside = ranked.find(
      ({ samples, placed }) =>
        placed !== null && placed.likeness > 2 * LEAST_LIKENESS && samples.length === one.samples.length,
    )?.placed;
    const placed = beside
      ? { ...beside, likeness: likenessAt(one.samples, edges, beside) }
      : ranked.length < SEARCHED
        ? refined(one.samples, edges, one.match.offset * BANDS_HOP)
        : null;
    ranked.push({ ...one, placed, score: one.match.score + (placed?.likeness ?? 0) });
  }
  const right = tried.find(isRight)?.hypothesis.sampleRate ?? 1;
  const isHalf = (rate: number) => Math.abs(Math.log2((2 * rate) / right)) < 0.02;
  const margin = ({ id, sampleRate }: Hypothesis) =>
    id !== 'wrong-rate' ? 0 : isHalf(sampleRate) ? HALF_MARGIN : RATE_MARGIN;
  const standing = ({ hypothesis, score }: Ranked) => score - margin(hypothesis);
  return ranked.sort((a, b) => standing(b) - standing(a));
}

/** What it is called with what became of its ends. */
function named(
  { hypothesis }: Trial,
  { missingAtStart, missingAtEnd, gap }: Structure,
  more: Omit<Conclusion, 'confidence'> | null,
): Omit<Conclusion, 'confidence'> {
  // Of a sound that comes again and again a part is found as well as all of it.
  const isItself = hypothesis.id === 'right' || hypothesis.id === 'cut-off';
  if (isItself && gap !== null) return { hypothesis: 'repeated', title: 'It played the file again and again' };
  if (hypothesis.id !== 'right') return { hypothesis: hypothesis.id, title: hypothesis.title };
  if (missingAtEnd > 0) return { hypothesis: 'cut-off', title: 'It left out the end' };
  if (missingAtStart > 0) return { hypothesis: 'start-lost', title: 'It left out the beginning' };
  return more ?? { hypothesis: hypothesis.id, title: hypothesis.title };
}

/** From how far the next one is behind, and how alike the best one is (fitted to recordings of made-up devices). */
const confidenceOf = (margin: number, score: number): number =>
  Math.min(0.99, 1 / (1 + Math.exp(-8 * margin - 3 * (score - LEAST_SCORE))));

/** Hz between which something stands out of the noise. */
function bandOf({ overNoise }: BandRecording): { low: number; high: number } | null {
  const loud = [...overNoise.keys()].filter((band) => overNoise[band] > 1);
  const at = (band: number) => Math.round(bandStart(band) / 10) * 10;
  return loud.length ? { low: at(loud[0]), high: at((loud.at(-1) ?? 0) + 1) } : null;
}
