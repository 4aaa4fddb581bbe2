import { Room } from '../bytes/index.ts';
import { weigh } from '../kernel/samples.ts';

/** How input channels make output channels: one row per output, one weight per input. */
export type MixMatrix = readonly (readonly number[])[];

/** Adds `weight` times the samples. Apart, so that it is compiled for one kind of array. */
function addTo(out: Float32Array, samples: Float32Array, weight: number): void {
  for (let i = 0; i < out.length; i++) out[i] += weight * samples[i];
}

/**
 * Applies `matrix` to one block. A row that takes a single input unchanged returns that very array.
 * @param room where the others are put, by the number of their row
 */
export function mix(channels: readonly Float32Array[], matrix: MixMatrix, room = new Room()): Float32Array[] {
  return matrix.map((weights, row) => {
    const used = weights.flatMap((weight, channel) => (weight === 0 ? [] : [{ weight, samples: channels[channel] }]));
    if (used.length === 1 && used[0].weight === 1) return used[0].samples;
    const out = room.samples(row, channels[0]?.length ?? 0);
    if (used.length === 2) weigh(used[0].samples, used[0].weight, used[1].samples, used[1].weight, out);
    else {
      out.fill(0);
      for (const { weight, samples } of used) addTo(out, samples, weight);
    }
    return out;
  });
}

/** Keeps one input channel. */
export const keepOne = (inputs: number, kept: number): MixMatrix => [
  Array.from({ length: inputs }, (_, channel) => (channel === kept ? 1 : 0)),
];

/** The mean of all input channels: cannot exceed full scale. */
export const meanOfAll = (inputs: number): MixMatrix => [new Array<number>(inputs).fill(1 / inputs)];

/** Every channel as it is. */
export const passThrough = (inputs: number): MixMatrix =>
  Array.from({ length: inputs }, (_, row) => Array.from({ length: inputs }, (_, column) => (row === column ? 1 : 0)));

/** One channel on each of `outputs`. */
export const spread = (outputs: number): MixMatrix => new Array<number[]>(outputs).fill([1]);

/** Speakers in the order in which files have them that do not say it, by number of channels (common practice, no source). */
const USUAL_LAYOUTS: Readonly<Record<number, readonly string[]>> = {
  3: ['L', 'R', 'C'],
  4: ['L', 'R', 'Ls', 'Rs'],
  5: ['L', 'R', 'C', 'Ls', 'Rs'],
  6: ['L', 'R', 'C', 'LFE', 'Ls', 'Rs'],
  7: ['L', 'R', 'C', 'LFE', 'Cs', 'Ls', 'Rs'],
  8: ['L', 'R', 'C', 'LFE', 'Lb', 'Rb', 'Ls', 'Rs'],
};

const HALF_POWER = Math.SQRT1_2;

/**
 * What each speaker gives to left, right and mono (ITU-R BS.775-3, table 2: 3/2 to 2/0 and to 1/0; from memory). Speakers
 * behind count as surrounds, a single one as half of each; the low-frequency channel is left out, as there.
 */
const SHARES: Readonly<Record<string, readonly [left: number, right: number, mono: number]>> = {
  L: [1, 0, HALF_POWER],
  R: [0, 1, HALF_POWER],
  C: [HALF_POWER, HALF_POWER, 1],
  Lc: [1, 0, HALF_POWER],
  Rc: [0, 1, HALF_POWER],
  Ls: [HALF_POWER, 0, 0.5],
  Rs: [0, HALF_POWER, 0.5],
  Lb: [HALF_POWER, 0, 0.5],
  Rb: [0, HALF_POWER, 0.5],
  Cs: [0.5, 0.5, 0.5],
  S: [0.5, 0.5, 0.5],
};

/**
 * Three channels and more to one or two, by the shares of ITU-R BS.775. All rows are scaled alike, so that the loudest
 * input cannot exceed full scale: what the shares add up to is divided by. Null if the speakers are not known.
 */
export function surroundMix(inputs: number, layout: readonly string[] | null, outputs: 1 | 2): MixMatrix | null {
  const speakers = layout?.length === inputs ? layout : USUAL_LAYOUTS[inputs];
  if (!speakers) return null;
  const rows = (outputs === 1 ? [2] : [0, 1]).map((column) =>
    speakers.map((speaker) => SHARES[speaker]?.[column] ?? 0),
  );
  const most = Math.max(...rows.map((row) => row.reduce((sum, share) => sum + share, 0)));
  return most > 0 ? rows.map((row) => row.map((share) => share / most)) : null;
}
