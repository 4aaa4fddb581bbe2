// The resampler beside a reference: the sinc converters of libsamplerate, as WebAssembly, on the same signals.
import libsamplerate from '@alexanderolsen/libsamplerate-js';
import { fft } from '../core/dsp/fixtures/fft.ts';
import { QUALITIES, Resampler } from '../core/dsp/index.ts';
import { hertz, type Rate } from '../core/numbers/index.ts';

const { ConverterType, create } = libsamplerate;

/** Changes the rate of one channel. */
export type Convert = (samples: Float32Array) => Float32Array;

export interface Contender {
  readonly title: string;
  make(from: number, to: number): Promise<{ readonly convert: Convert; readonly end: () => void }>;
}

const reference = (title: string, converterType: number): Contender => ({
  title,
  async make(from, to) {
    const converter = await create(1, from, to, { converterType: converterType as never });
    return { convert: (samples) => converter.full(samples), end: () => converter.destroy() };
  },
});

/** Our own: of sounds of any length, or as those of less than a second are converted. */
export function ours(from: Rate, to: Rate, quality: keyof typeof QUALITIES, isShort = false): Convert {
  const wish = { quality: QUALITIES[quality], frames: isShort ? 1 : Number.POSITIVE_INFINITY };
  return (samples) => new Resampler(from, to, wish).finish(samples);
}

const own = (title: string, isShort: boolean): Contender => ({
  title,
  make: async (from, to) => ({ convert: ours(from, to, 'standard', isShort), end: () => undefined }),
});

export const contenders: readonly Contender[] = [
  own('Tambur, standard', false),
  own('Tambur, short sounds', true),
  reference('reference, best', ConverterType.SRC_SINC_BEST_QUALITY),
  reference('reference, medium', ConverterType.SRC_SINC_MEDIUM_QUALITY),
];

/** Far ratios, a timer's exact rate, and the draft: what the reference is not asked for. */
export const OWN: readonly {
  readonly title: string;
  readonly from: Rate;
  readonly to: Rate;
  readonly convert: Convert;
}[] = (
  [
    [256_000, 4_000, 'standard'],
    [4_000, 256_000, 'standard'],
    [44_100, '16000000/1020', 'standard'],
    ['16000000/1020', 44_100, 'standard'],
    [44_100, 8_000, 'draft'],
    [44_100, 48_000, 'draft'],
  ] as const
).map(([from, to, quality]) => ({
  title: `Tambur, ${quality}`,
  from,
  to,
  convert: ours(from, to, quality),
}));

/** The ratios that matter here, in Hz. */
export const RATIOS: readonly (readonly [from: number, to: number])[] = [
  [44_100, 8_000],
  [44_100, 16_000],
  [48_000, 16_000],
  [44_100, 48_000],
  [44_100, 22_050],
];

export const sine = (hz: number, rate: number, seconds: number, amplitude: number): Float32Array =>
  Float32Array.from(
    { length: Math.round(rate * seconds) },
    (_, i) => amplitude * Math.sin((2 * Math.PI * hz * i) / rate),
  );

/** The middle of a sound, without what its ends do to it. */
const middle = (samples: Float32Array): Float32Array =>
  samples.subarray(Math.round(samples.length * 0.25), Math.round(samples.length * 0.75));

const dB = (ratio: number): number => 20 * Math.log10(ratio);

const rms = (samples: Float32Array): number =>
  Math.sqrt(samples.reduce((sum, value) => sum + value * value, 0) / samples.length);

/** Amplitude of a sine of a known frequency, and the root mean square of all that is not that sine: least squares. */
export function fitSine(samples: Float32Array, hz: number, rate: number): { amplitude: number; rest: number } {
  let [cc, ss, cs, xc, xs] = [0, 0, 0, 0, 0];
  const angle = (i: number) => (2 * Math.PI * hz * i) / rate;
  for (let i = 0; i < samples.length; i++) {
    const [c, s, x] = [Math.cos(angle(i)), Math.sin(angle(i)), samples[i]];
    cc += c * c;
    ss += s * s;
    cs += c * s;
    xc += x * c;
    xs += x * s;
  }
  const determinant = cc * ss - cs * cs;
  const a = (xc * ss - xs * cs) / determinant;
  const b = (xs * cc - xc * cs) / determinant;
  let square = 0;
  for (let i = 0; i < samples.length; i++) {
    square += (samples[i] - a * Math.cos(angle(i)) - b * Math.sin(angle(i))) ** 2;
  }
  return { amplitude: Math.hypot(a, b), rest: Math.sqrt(square / samples.length) };
}

export interface Quality {
  /** Largest deviation from unity up to 0.913 of the lower Nyquist frequency, dB. */
  readonly ripple: number;
  /** What is left of full-scale sines from the lower Nyquist frequency on, or of their images, at most, dB. */
  readonly stopBand: number;
  /** Noise and distortion of a full-scale sine of 997 Hz, dB. */
  readonly noise: number;
  /** What two tones of half of full scale leave beside themselves, dB. */
  readonly twoTone: number;
  /** What a full-scale sweep leaves where nothing belongs, beside its own energy, dB. */
  readonly sweep: number;
  /** Largest deviation of a constant from itself. */
  readonly dc: number;
}

const PASS_BAND = 0.913;
const STEPS = 24;

const SWEEP_SECONDS = 2;

/** A full-scale sine that goes evenly from one frequency to another, softly begun and ended. */
function sweep(from: number, to: number, rate: number): Float32Array {
  const frames = Math.round(rate * SWEEP_SECONDS);
  return Float32Array.from({ length: frames }, (_, i) => {
    const t = i / rate;
    const fade = Math.min(1, t / 0.5, (frames - 1 - i) / rate / 0.5);
    const phase = from * t + ((to - from) * t * t) / (2 * SWEEP_SECONDS);
    return (0.5 - 0.5 * Math.cos(Math.PI * fade)) * Math.sin(2 * Math.PI * phase);
  });
}

/** Energy of a whole sound from a frequency on, beside all of it, in dB. Its soft ends keep frequencies apart. */
function energyFrom(samples: Float32Array, rate: number, hz: number): number {
  const size = 2 ** Math.ceil(Math.log2(samples.length));
  const re = new Float64Array(size);
  re.set(samples);
  const im = new Float64Array(size);
  fft(re, im);
  let [whole, above] = [0, 0];
  for (let k = 0; k <= size / 2; k++) {
    const power = re[k] ** 2 + im[k] ** 2;
    whole += power;
    if ((k * rate) / size >= hz) above += power;
  }
  return 10 * Math.log10(above / whole);
}

const energy = (samples: Float32Array, rate: number) => samples.reduce((sum, value) => sum + value * value, 0) / rate;

/**
 * What a sweep leaves where nothing belongs, beside its own energy: going down, all of a sweep above the new band; going
 * up, what lies above the old band of a sweep below it. It stays 5 % away from the edge, as it is itself some 100 Hz wide.
 */
function sweepLeftover(convert: Convert, from: number, to: number): number {
  const nyquist = Math.min(from, to) / 2;
  // The reference remembers what it was given before; silence makes it forget.
  convert(new Float32Array(from));
  if (to > from) return energyFrom(convert(sweep(20, PASS_BAND * nyquist, from)), to, nyquist * 1.05);
  const sound = sweep(nyquist * 1.05, from / 2, from);
  const out = convert(sound);
  return 10 * Math.log10(energy(out, to) / energy(sound, from));
}

/** Measures a converter by sines: each is a second long, its middle half counts. */
export function qualityOf(convert: Convert, oldRate: Rate, newRate: Rate): Quality {
  const from = hertz(oldRate);
  const to = hertz(newRate);
  const nyquist = Math.min(from, to) / 2;
  const out = (hz: number, amplitude: number) => middle(convert(sine(hz, from, 1, amplitude)));
  let ripple = 0;
  let stopBand = Number.NEGATIVE_INFINITY;
  for (let i = 0; i <= STEPS; i++) {
    const hz = 50 + (i / STEPS) * (PASS_BAND * nyquist - 50);
    const { amplitude, rest } = fitSine(out(hz, 0.9), hz, to);
    ripple = Math.max(ripple, Math.abs(dB(amplitude / 0.9)));
    // Going up, images of what passes lie above the lower Nyquist frequency.
    if (to > from) stopBand = Math.max(stopBand, dB((rest * Math.SQRT2) / 0.9));
    if (to < from) {
      const above = nyquist * 1.0005 + (i / STEPS) * (from / 2 - nyquist * 1.0005 - 1);
      stopBand = Math.max(stopBand, dB((rms(out(above, 0.9)) * Math.SQRT2) / 0.9));
    }
  }
  const single = fitSine(out(997, 1), 997, to);
  const tones = convert(
    sine(900, from, 1, 0.5).map((value, i) => value + 0.5 * Math.sin((2 * Math.PI * 1300 * i) / from)),
  );
  return {
    ripple,
    stopBand,
    noise: dB(single.rest * Math.SQRT2),
    twoTone: dB(leftover(middle(tones), [900, 1300], to)),
    sweep: sweepLeftover(convert, from, to),
    dc: middle(convert(new Float32Array(Math.round(from)).fill(1))).reduce(
      (most, value) => Math.max(most, Math.abs(value - 1)),
      0,
    ),
  };
}

/** Peak of what is left when several sines have been taken out, one after the other and once more. */
function leftover(samples: Float32Array, tones: readonly number[], rate: number): number {
  const rest = Float64Array.from(samples);
  for (const hz of [...tones, ...tones, ...tones]) {
    const angle = (i: number) => (2 * Math.PI * hz * i) / rate;
    let [c, s] = [0, 0];
    for (let i = 0; i < rest.length; i++) {
      c += rest[i] * Math.cos(angle(i));
      s += rest[i] * Math.sin(angle(i));
    }
    const [a, b] = [(2 * c) / rest.length, (2 * s) / rest.length];
    for (let i = 0; i < rest.length; i++) rest[i] -= a * Math.cos(angle(i)) + b * Math.sin(angle(i));
  }
  return Math.sqrt(rest.reduce((sum, value) => sum + value * value, 0) / rest.length) * Math.SQRT2;
}
