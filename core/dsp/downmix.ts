/** How input channels make output channels: one row per output, one weight per input. */
export type MixMatrix = readonly (readonly number[])[];

/** Applies `matrix` to one block. A row that takes a single input unchanged returns that very array. */
export function mix(channels: readonly Float32Array[], matrix: MixMatrix): Float32Array[] {
  return matrix.map((weights) => {
    const used = weights.flatMap((weight, channel) => (weight === 0 ? [] : [{ weight, samples: channels[channel] }]));
    if (used.length === 1 && used[0].weight === 1) return used[0].samples;
    const out = new Float32Array(channels[0]?.length ?? 0);
    for (const { weight, samples } of used) {
      for (let i = 0; i < out.length; i++) out[i] += weight * samples[i];
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
