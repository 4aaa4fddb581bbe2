/** What was measured on the way through the chain. */
export interface RenderReport {
  /** Frames of the result. */
  readonly frames: number;
  /** Largest magnitude that came to the gain, linear: after Rate and the filters of Level. */
  readonly peakBefore: number;
  /** What Level added, in dB; 0 for digital silence. */
  readonly gainDb: number;
  /** How much more would reach full scale, in dB; negative where it flattens; null for digital silence. */
  readonly headroomDb: number | null;
  /** Frames that the limiter made quieter by more than 0.1 dB, and by how much at most, in dB; null if it is off. */
  readonly limited: { readonly frames: number; readonly mostDb: number } | null;
  /** Frames of silence that Ends took off; null if it was not to. */
  readonly trimmed: { readonly front: number; readonly back: number } | null;
  /** The loop that Ends found; null if it was not to. */
  readonly loop: LoopReport | null;
  /** Frames that exceeded full scale and were flattened. */
  readonly clippedFrames: number;
  /** The sound's power over that of the error of Depth and of the encoding, in dB; null if there is none of either. */
  readonly signalToNoiseDb: number | null;
  /** Part of all levels between the lowest and the highest that was used, 0..1; null if there are no levels. */
  readonly rangeUsed: number | null;
}

/** What one part of the work adds to the report. */
export type Measurements = Partial<RenderReport>;

export interface LoopReport {
  /** Frames left away at the start and the end. */
  readonly front: number;
  readonly back: number;
  /** How alike the sound is around both ends, -1..1. */
  readonly likeness: number;
  /** From the last frame to the first, linear. */
  readonly step: number;
  /** The largest step between neighbouring frames nearby, linear. */
  readonly usualStep: number;
}
