/** A tempo that a sound may have. */
export interface TempoGuess {
  /** Beats a minute. */
  readonly tempo: number;
  /** How alike the sound is to itself one, two, three … beats later, -1..1. */
  readonly likeness: number;
}

/** Tempo of a sound: the likeliest, and the next likely one that is not its half or double. */
export interface FoundTempo {
  readonly best: TempoGuess;
  readonly second: TempoGuess | null;
}

/** Steps of the onset curve in a second: at 200 beats a minute 60 of them are a beat. */
const STEPS = 200;
/** Seconds that are listened to. */
export const TEMPO_SECONDS = 60;
/** Beats a minute between which a tempo is looked for. */
const SLOWEST = 55;
const FASTEST = 210;
/** What people tap: most near 115, spread by 0.9 octaves (a normal curve; after the resonance of perceived tempo, from memory). */
const USUAL = 115;
const SPREAD = 0.9;
/** Corners of the bands in which onsets are looked for, Hz: drums, voices, cymbals. */
const CORNERS = [200, 2000];
/** Of a sound that lasts so many times a lag at least is that lag looked at. */
const LONGER = 4 / 3;
/** Two tempos nearer than this are one. */
const NEAR = 0.06;

/**
 * Finds the tempo of a sound from the autocorrelation of its onsets: rises of the logarithm of energy in three bands, and how
 * alike they are to themselves some beats later (the usual way; M. Goto and Y. Muraoka, 1994, from memory).
 * @returns null if nothing in the sound repeats
 */
export function tempoOf(channels: readonly Float32Array[], sampleRate: number): FoundTempo | null {
  const onsets = onsetsOf(channels, sampleRate);
  const most = Math.floor(onsets.length / LONGER);
  if (most < STEPS) return null;
  const alike = autocorrelation(onsets, most);
  const guesses = candidates().map((tempo): TempoGuess & { readonly score: number } => {
    const beat = (60 * STEPS) / tempo;
    const likeness = likenessAt(alike, beat);
    return { tempo, likeness, score: (likeness + BAR * barAt(alike, beat)) * usual(tempo) };
  });
  const peaks = guesses
    .filter(
      ({ score }, i) => score > 0 && score >= (guesses[i - 1]?.score ?? 0) && score > (guesses[i + 1]?.score ?? 0),
    )
    .sort((a, b) => b.score - a.score);
  const [first] = peaks;
  if (!first) return null;
  const best = refined(alike, first.tempo);
  const isOther = ({ tempo }: TempoGuess) =>
    [0.5, 1, 2].every((times) => Math.abs(tempo / (best.tempo * times) - 1) > NEAR);
  const other = peaks.find(isOther);
  return { best, second: other ? refined(alike, other.tempo) : null };
}

/** How much louder each step is than the one before, over three bands. */
function onsetsOf(channels: readonly Float32Array[], sampleRate: number): Float64Array {
  const frames = Math.min(channels[0]?.length ?? 0, TEMPO_SECONDS * sampleRate);
  const steps = Math.floor((frames * STEPS) / sampleRate);
  const onsets = new Float64Array(steps);
  // One-pole filters part the bands: what each leaves over is the next band.
  const shares = CORNERS.map((hz) => 1 - Math.exp((-2 * Math.PI * hz) / sampleRate));
  const states = CORNERS.map(() => 0);
  const before = [...CORNERS, 0].map(() => Number.NaN);
  let at = 0;
  for (let step = 0; step < steps; step++) {
    const end = Math.floor(((step + 1) * sampleRate) / STEPS);
    const energy = before.map(() => 0);
    for (; at < end; at++) {
      let rest = 0;
      for (const samples of channels) rest += samples[at];
      shares.forEach((share, band) => {
        states[band] += share * (rest - states[band]);
        energy[band] += states[band] ** 2;
        rest -= states[band];
      });
      energy[CORNERS.length] += rest ** 2;
    }
    energy.forEach((sum, band) => {
      // -60 dB of full scale is where a rise begins to count.
      const level = Math.log(1e-6 + sum / (sampleRate / STEPS));
      if (!Number.isNaN(before[band])) onsets[step] += Math.max(0, level - before[band]);
      before[band] = level;
    });
  }
  const mean = onsets.reduce((sum, value) => sum + value, 0) / Math.max(1, steps);
  // Neighbours are taken together, so that a beat that comes a step late still counts.
  return onsets.map((_, i) => ((onsets[i - 1] ?? mean) + 2 * onsets[i] + (onsets[i + 1] ?? mean)) / 4 - mean);
}

/** Likeness with itself by lags in steps, 1 at none; of what is left of the sound at each lag. */
function autocorrelation(values: Float64Array, most: number): Float64Array {
  const alike = new Float64Array(most + 1);
  let own = 0;
  for (const value of values) own += value * value;
  for (let lag = 0; lag <= most; lag++) {
    let sum = 0;
    for (let i = lag; i < values.length; i++) sum += values[i] * values[i - lag];
    alike[lag] = own > 0 ? (sum / own) * (values.length / (values.length - lag)) : 0;
  }
  return alike;
}

/** How much the bar counts beside the beats. */
const BAR = 0.5;

/** Beats make bars of four or three, in which music repeats most: what is no beat, such as two thirds of one, makes none. */
function barAt(alike: Float64Array, beat: number): number {
  const lags = [3, 4].map((beats) => beats * beat).filter((lag) => lag < alike.length - 1);
  return Math.max(0, ...lags.map((lag) => between(alike, lag)));
}

/** Between two lags in a straight line. */
function between(alike: Float64Array, lag: number): number {
  const first = Math.floor(lag);
  return alike[first] + ((alike[first + 1] ?? alike[first]) - alike[first]) * (lag - first);
}

/** So many beats later it is looked at. */
const BEATS = 8;

/** The mean likeness one, two … beats later, as far as the sound goes. */
function likenessAt(alike: Float64Array, beat: number, beats = BEATS): number {
  const count = Math.min(beats, Math.floor((alike.length - 2) / beat));
  let sum = 0;
  for (let k = 1; k <= count; k++) sum += between(alike, k * beat);
  return count > 0 ? sum / count : 0;
}

/** Tempos apart by a quarter of a per cent. */
const candidates = (): number[] =>
  Array.from({ length: Math.ceil(Math.log(FASTEST / SLOWEST) / Math.log(1.0025)) }, (_, i) => SLOWEST * 1.0025 ** i);

const usual = (tempo: number): number => Math.exp(-0.5 * (Math.log2(tempo / USUAL) / SPREAD) ** 2);

/** The best tempo close by, found with as many beats as the sound has: the farthest tells it most exactly. */
function refined(alike: Float64Array, tempo: number): TempoGuess {
  let best: TempoGuess = { tempo, likeness: Number.NEGATIVE_INFINITY };
  for (let off = -0.02; off <= 0.02; off += 0.0002) {
    const near = tempo * (1 + off);
    const likeness = likenessAt(alike, (60 * STEPS) / near, Number.POSITIVE_INFINITY);
    if (likeness > best.likeness) best = { tempo: near, likeness };
  }
  return best;
}
