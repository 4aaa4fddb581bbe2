/** Nearest frame at a time in seconds. */
export const framesAt = (seconds: number, sampleRate: number): number => Math.round(seconds * sampleRate);

/** Frames that `frames` become when the rate changes from `from` to `to` Hz: round(frames x to / from). */
export const framesAtRate = (frames: number, from: number, to: number): number => Math.round((frames * to) / from);
