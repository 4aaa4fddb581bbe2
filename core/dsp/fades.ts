/** How a fade goes up: the gain at a place 0..1. A fade out goes the same way backward. */
const SHAPES_OF_FADES = {
  /** In a straight line. */
  linear: (t: number) => t,
  /** Half a cosine: no corner at either end. */
  smooth: (t: number) => 0.5 - 0.5 * Math.cos(Math.PI * t),
  /** Two sounds that do not resemble each other stay equally loud together. */
  'equal-power': (t: number) => Math.sin((Math.PI / 2) * t),
  /** In a straight line in dB, from 60 dB down. */
  exponential: (t: number) => (t <= 0 ? 0 : 10 ** (3 * (t - 1))),
} as const satisfies Record<string, (t: number) => number>;

export type FadeShape = keyof typeof SHAPES_OF_FADES;
export const FADE_SHAPES = Object.keys(SHAPES_OF_FADES) as FadeShape[];

/** Gain, 0..1, at frame `n` of a fade in over `frames`: above 0 from its first frame, 1 after its last. */
export const fadeGain = (shape: FadeShape, n: number, frames: number): number =>
  n >= frames ? 1 : SHAPES_OF_FADES[shape]((n + 1) / (frames + 1));
