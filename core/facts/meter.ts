import { LevelMeter, type Levels, SoundFinder } from '../audio/index.ts';
import { bandwidthOf, energyAbove, LoudnessMeter, SpectrumMeter, TruePeakMeter } from '../dsp/index.ts';
import { inStages } from '../kernel/memory.ts';

/** What is measured of a whole sound beside its levels. */
export interface Measures {
  /** Highest true peak of all channels, linear, relative to full scale. */
  readonly truePeak: number;
  /** Integrated loudness in LUFS; null for silence. */
  readonly loudness: number | null;
  /** Highest loudness of any 3 s, LUFS; null for what is shorter, or silent. */
  readonly loudestTerm: number | null;
  /** Loudness range in LU; likewise. */
  readonly loudnessRange: number | null;
  /** Frames at the start and the end in which no channel exceeds -60 dBFS; for silence all of them are at the start. */
  readonly leadingSilence: number;
  readonly trailingSilence: number;
  /** Bits that the samples really use; null if they are no plain whole numbers. */
  readonly usedBits: number | null;
  /** Hz: next to nothing lies above; null for silence. */
  readonly bandwidth: number | null;
  /** How much of the sound lies above each of `ENERGY_STEPS`, in dB of the whole; null for silence. */
  readonly energyAbove: readonly number[] | null;
}

/** Hz: half of the rates that devices use. */
export const ENERGY_STEPS = [2000, 2756, 4000, 5512, 8000, 11_025, 16_000] as const;

/** dB. */
const LEAST_ENERGY = -100;

/** Most bits of which a 32-bit floating-point lane keeps each one. */
const EXACT_BITS = 24;

interface Kind {
  readonly sampleRate: number;
  readonly channels: number;
  /** Bits of plain whole-number samples; null for everything else. */
  readonly plainBits: number | null;
}

/** Measures a sound block by block; every `add` takes the next frames of the same channels. */
export class SoundMeter {
  private readonly sampleRate: number;
  private readonly plainBits: number | null;
  private readonly levels: LevelMeter;
  private readonly loudness: LoudnessMeter;
  private readonly truePeaks: TruePeakMeter[];
  private readonly spectrum = new SpectrumMeter();
  /** All samples as whole numbers, or-ed: bits that stay 0 are not used. */
  private bits = 0;
  private readonly sound = new SoundFinder();

  constructor({ sampleRate, channels, plainBits }: Kind) {
    this.sampleRate = sampleRate;
    this.plainBits = plainBits !== null && plainBits <= EXACT_BITS ? plainBits : null;
    this.levels = new LevelMeter(channels);
    this.loudness = new LoudnessMeter(sampleRate, channels);
    this.truePeaks = Array.from({ length: channels }, () => new TruePeakMeter());
  }

  add(channels: readonly Float32Array[]): void {
    inStages(channels, (piece) => this.measure(piece));
  }

  private measure(channels: readonly Float32Array[]): void {
    this.levels.add(channels);
    this.loudness.add(channels);
    this.spectrum.add(channels);
    this.sound.add(channels);
    channels.forEach((samples, channel) => {
      this.truePeaks[channel]?.add(samples);
      if (this.plainBits !== null && (this.bits & 1) === 0) this.gatherBits(samples, 2 ** (this.plainBits - 1));
    });
  }

  private gatherBits(samples: Float32Array, scale: number): void {
    let bits = this.bits;
    for (let i = 0; i < samples.length; i++) bits |= samples[i] * scale;
    this.bits = bits;
  }

  /** Takes the sound as ended. */
  result(): { readonly levels: Levels; readonly measures: Measures } {
    const { first, last, frames } = this.sound;
    const power = this.spectrum.result();
    const bandwidth = bandwidthOf(power, this.sampleRate);
    const isSilent = last < 0;
    const unused = this.bits === 0 ? 0 : 31 - Math.clz32(this.bits & -this.bits);
    return {
      levels: this.levels.result(),
      measures: {
        truePeak: Math.max(0, ...this.truePeaks.map((meter) => meter.result())),
        loudness: this.loudness.integrated(),
        loudestTerm: this.loudness.loudestTerm(),
        loudnessRange: this.loudness.range(),
        leadingSilence: isSilent ? frames : first,
        trailingSilence: isSilent ? 0 : frames - 1 - last,
        usedBits: this.plainBits === null || this.bits === 0 ? null : this.plainBits - unused,
        bandwidth,
        // Next to nothing is left above the bandwidth: how little does not matter, and no figure of JSON is infinite.
        energyAbove:
          bandwidth === null
            ? null
            : ENERGY_STEPS.map((hz) => Math.max(LEAST_ENERGY, energyAbove(power, this.sampleRate, hz))),
      },
    };
  }
}
