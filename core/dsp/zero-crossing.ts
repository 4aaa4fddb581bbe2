/**
 * The frame nearest to `near` at which the sum of all channels changes its sign, or is zero: where a cut clicks least.
 * @param near index into the channels
 * @returns null if there is none
 */
export function nearestZeroCrossing(channels: readonly Float32Array[], near: number): number | null {
  const frames = channels[0]?.length ?? 0;
  const at = (frame: number) => channels.reduce((sum, samples) => sum + (samples[frame] ?? 0), 0);
  const isCrossing = (frame: number) => {
    if (frame < 0 || frame >= frames) return false;
    const value = at(frame);
    return value === 0 || (frame > 0 && value > 0 !== at(frame - 1) > 0);
  };
  for (let away = 0; away < frames; away++) {
    if (isCrossing(near - away)) return near - away;
    if (isCrossing(near + away)) return near + away;
  }
  return null;
}
