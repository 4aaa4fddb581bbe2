import { ribbonShare } from './waveform.ts';

/** Of the picture; its width is one less than its bins. */
export const HEIGHT = 24;

/** Signed bytes of base64. */
const bytesOf = (base64: string) => Int8Array.from(atob(base64), (char) => char.charCodeAt(0));

const place = (x: number, y: number) => `${x} ${y.toFixed(1)}`;

/** A closed shape between two lines. */
const shape = (top: readonly string[], bottom: readonly string[]) =>
  top.length > 0 ? `M${top.join('L')}L${bottom.toReversed().join('L')}Z` : '';

/** The waveform in small as two closed shapes, so that a thousand rows stay light: its peaks, and a ribbon of how loud it is. */
export function pathsOf(waveform: string): { peaks: string; ribbon: string; bins: number } {
  const [extremes, levels] = waveform.split('.', 2).map(bytesOf);
  const bins = (extremes?.length ?? 0) / 2;
  const all = Array.from({ length: bins }, (_, bin) => bin);
  const y = (value = 0) => (HEIGHT / 2) * (1 - value / 127);
  const thick = (below = 127) => (below < 127 ? 1.5 * HEIGHT * ribbonShare(10 ** (-below / 20)) : 0);
  return {
    peaks: shape(
      all.map((bin) => place(bin, y(extremes?.[2 * bin + 1]) - 0.4)),
      all.map((bin) => place(bin, y(extremes?.[2 * bin]) + 0.4)),
    ),
    ribbon: levels
      ? shape(
          all.map((bin) => place(bin, HEIGHT - thick(levels[bin]))),
          all.map((bin) => place(bin, HEIGHT)),
        )
      : '',
    bins,
  };
}
