import { SPECTRUM_SIZE, SpectrumMeter } from '../dsp/index.ts';

/** Paces that are tried: clocks are off by so much at most. */
const CLOCK = 0.013;
/** So finely that a frame of the sound still lies over that of the recording, and no partial leaves its bin. */
const COARSE = 0.003;
/** What phases tell between two of those. */
const FINE = 1e-4;
/** Samples of a frame, one after the other. */
const FRAME = 512;
/** Frames between two looks at a phase: near ones are sure, far ones are exact. */
const SPANS = [1, 2, 4, 8, 16] as const;
/** The loudest partials of a sound that are followed. */
const PARTIALS = 16;

const WINDOW = Float32Array.from({ length: FRAME }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / FRAME));

/** A sound at another pace, in straight lines between its samples. */
export function atPace(sound: Float32Array, pace: number): Float32Array {
  const out = new Float32Array(Math.floor((sound.length - 1) * pace));
  for (let i = 0; i < out.length; i++) {
    const at = i / pace;
    const k = Math.floor(at);
    out[i] = sound[k] + (at - k) * (sound[k + 1] - sound[k]);
  }
  return out;
}

/** The loudest frequencies of a sound that a frame tells apart, in radians per sample. */
function partialsOf(sound: Float32Array): readonly number[] {
  const meter = new SpectrumMeter();
  meter.add([sound]);
  const power = meter.result();
  const apart = (2 * SPECTRUM_SIZE) / FRAME;
  const found: number[] = [];
  for (const bin of [...power.keys()].sort((a, b) => power[b] - power[a])) {
    if (found.length === PARTIALS || power[bin] === 0) break;
    if (bin >= apart && found.every((other) => Math.abs(other - bin) >= apart)) found.push(bin);
  }
  return found.map((bin) => (2 * Math.PI * bin) / SPECTRUM_SIZE);
}

/** A sine in a window, to be held against a frame. */
interface Probe {
  readonly cos: Float32Array;
  readonly sin: Float32Array;
}

const probeOf = (turn: number): Probe => ({
  cos: WINDOW.map((weight, i) => weight * Math.cos(turn * i)),
  sin: WINDOW.map((weight, i) => -weight * Math.sin(turn * i)),
});

/** Complex amplitudes, frame by frame: of each partial its real and imaginary part. */
function followed(samples: Float32Array, from: number, frames: number, probes: readonly Probe[]): Float32Array {
  const out = new Float32Array(2 * frames * probes.length);
  for (let frame = 0; frame < frames; frame++) {
    const at = from + frame * FRAME;
    if (at < 0 || at + FRAME > samples.length) continue;
    for (const [k, { cos, sin }] of probes.entries()) {
      let [re, im] = [0, 0];
      for (let i = 0; i < FRAME; i++) {
        const value = samples[at + i];
        re += value * cos[i];
        im += value * sin[i];
      }
      out.set([re, im], 2 * (frame * probes.length + k));
    }
  }
  return out;
}

/**
 * The pace at which a sound lies in a recording, above 1 if it is slower: that at which the phases between the two stay as
 * they are. A loudspeaker and a room turn the phase of each partial, but by as much at every time, and steady tones, which are
 * alike wherever a period more or less is counted, have no other pace at which they keep step. (Frequency from phase
 * differences: S. M. Kay, "A Fast and Accurate Single Frequency Estimator", IEEE Trans. ASSP-37, 1989, from memory.)
 * @param delay samples of the recording before the sound; a third of a frame to each side makes no difference
 */
export function paceOf(sound: Float32Array, recording: Float32Array, delay: number): number {
  const partials = partialsOf(sound);
  let best = { pace: 1, inStep: 0 };
  for (let coarse = 1 - CLOCK; coarse <= 1 + CLOCK; coarse += COARSE) {
    const paced = atPace(sound, coarse);
    const turns = partials.map((turn) => turn / coarse);
    const probes = turns.map(probeOf);
    const frames = Math.floor(paced.length / FRAME);
    const [own, there] = [followed(paced, 0, frames, probes), followed(recording, delay, frames, probes)];
    const { sums, most } = drifts(own, there, partials.length);
    for (let fine = -COARSE / 2; fine <= COARSE / 2; fine += FINE) {
      let inStep = 0;
      for (const { span, k, re, im } of sums) {
        const turn = turns[k] * fine * FRAME * span;
        inStep += re * Math.cos(turn) - im * Math.sin(turn);
      }
      // Beside its place a partial is softer, which counts, but less than that all keep step.
      inStep /= Math.sqrt(most);
      if (inStep > best.inStep) best = { pace: coarse * (1 + fine), inStep };
    }
  }
  return best.pace;
}

interface Drift {
  readonly span: number;
  /** Which partial. */
  readonly k: number;
  /** What the phase between sound and recording does over the span: the sum of all places, complex. */
  readonly re: number;
  readonly im: number;
}

/** How phases between two go on from frame to frame, and the sum if they stood still. */
function drifts(own: Float32Array, there: Float32Array, partials: number): { sums: readonly Drift[]; most: number } {
  const frames = own.length / (2 * partials);
  const between = new Float32Array(own.length);
  for (let i = 0; i < own.length; i += 2) {
    between[i] = own[i] * there[i] + own[i + 1] * there[i + 1];
    between[i + 1] = own[i] * there[i + 1] - own[i + 1] * there[i];
  }
  let most = 0;
  const sums = SPANS.flatMap((span) =>
    Array.from({ length: partials }, (_, k): Drift => {
      let [re, im] = [0, 0];
      for (let frame = 0; frame + span < frames; frame++) {
        const a = 2 * (frame * partials + k);
        const b = a + 2 * span * partials;
        re += between[a] * between[b] + between[a + 1] * between[b + 1];
        im += between[a] * between[b + 1] - between[a + 1] * between[b];
        most += Math.hypot(between[a], between[a + 1]) * Math.hypot(between[b], between[b + 1]);
      }
      return { span, k, re, im };
    }),
  );
  return { sums, most };
}
