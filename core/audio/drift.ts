/** Seconds over which what is left of a sound is no tone any more. */
const STILL = 0.025;

/** Share of a sound's power that is not heard, as it is slower than any tone: 0..1. */
export function driftIn(samples: Float32Array, sampleRate: number): number {
  const size = Math.round(STILL * sampleRate);
  let [all, slow] = [0, 0];
  for (let at = 0; at + size <= samples.length; at += size) {
    let sum = 0;
    for (let i = at; i < at + size; i++) {
      sum += samples[i];
      all += samples[i] ** 2;
    }
    slow += sum ** 2 / size;
  }
  return all > 0 ? slow / all : 0;
}
