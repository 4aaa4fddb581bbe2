import { energyAbove, type Pcm, type PcmReader, SPECTRUM_SIZE, SpectrumMeter } from '@tambur/core';

/** A long-term spectrum. */
export interface Spectrum {
  /** Hz. */
  readonly sampleRate: number;
  /** dB of each bin from 0 to half the rate: a full-scale sine shows 0. */
  readonly levels: Float64Array;
  /** Power of each bin, in arbitrary units: what parts of the energy are told from. */
  readonly power: Float64Array;
}

/** Two meters: one with windows that show levels, one whose windows keep frequencies apart. */
class Meters {
  private readonly levels = new SpectrumMeter({ window: 'flat-top', thorough: true });
  private readonly power = new SpectrumMeter({ window: 'hann', thorough: true });

  add(channels: readonly Float32Array[]): void {
    this.levels.add(channels);
    this.power.add(channels);
  }

  gap(): void {
    this.levels.gap();
    this.power.gap();
  }

  result = (sampleRate: number): Spectrum => ({
    sampleRate,
    levels: this.levels.levels(),
    power: this.power.result(),
  });
}

/** Of longer cuts so many pieces, evenly apart, are looked at. */
const PIECES = 40;
const PIECE = 8 * SPECTRUM_SIZE;

export async function spectrumOfCut(reader: PcmReader, start: number, end: number): Promise<Spectrum> {
  const meters = new Meters();
  const needed = Math.ceil((end - start) / PIECE);
  const pieces = Math.min(PIECES, needed);
  const step = needed > PIECES ? (end - start - PIECE) / (PIECES - 1) : PIECE;
  for (let i = 0; i < pieces; i++) {
    const at = start + Math.floor(i * step);
    if (step > PIECE) meters.gap();
    meters.add(await reader.read(at, Math.min(PIECE, end - at)));
  }
  return meters.result(reader.sampleRate);
}

export const spectrumOfSound = (pcm: Pcm): Promise<Spectrum> =>
  spectrumOfCut(
    {
      sampleRate: pcm.sampleRate,
      channelCount: pcm.channels.length,
      frames: pcm.channels[0]?.length ?? 0,
      read: async (start, count) => pcm.channels.map((samples) => samples.subarray(start, start + count)),
    },
    0,
    pcm.channels[0]?.length ?? 0,
  );

/** dB of the whole energy that lies above half of a new rate, and is lost there. */
export const lostAt = ({ power, sampleRate }: Spectrum, rate: number): number =>
  rate >= sampleRate ? Number.NEGATIVE_INFINITY : energyAbove(power, sampleRate, rate / 2);

/** One place of the chart. */
export interface SpectrumPoint {
  readonly hz: number;
  readonly came?: number | undefined;
  readonly leaves?: number | undefined;
}

const FLOOR = -120;
const LOWEST_HZ = 30;
const POINTS = 160;

/** The highest level between two frequencies; undefined above half the rate. */
function levelIn({ levels, sampleRate }: Spectrum, from: number, to: number): number | undefined {
  const bin = sampleRate / SPECTRUM_SIZE;
  if (from > sampleRate / 2) return undefined;
  const first = Math.max(1, Math.round(from / bin));
  const last = Math.min(levels.length - 1, Math.max(first, Math.floor(to / bin)));
  let most = FLOOR;
  for (let k = first; k <= last; k++) most = Math.max(most, levels[k] ?? FLOOR);
  return most;
}

/** Both spectra at frequencies that are evenly apart to the ear. */
export function pointsOf(came: Spectrum, leaves: Spectrum | null): SpectrumPoint[] {
  const top = Math.max(came.sampleRate, leaves?.sampleRate ?? 0) / 2;
  const ratio = (top / LOWEST_HZ) ** (1 / POINTS);
  return Array.from({ length: POINTS }, (_, i) => {
    const from = LOWEST_HZ * ratio ** i;
    const to = from * ratio;
    return {
      hz: Math.sqrt(from * to),
      came: levelIn(came, from, to),
      leaves: leaves ? levelIn(leaves, from, to) : undefined,
    };
  });
}
