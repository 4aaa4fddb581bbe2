import { memo } from 'react';

const HEIGHT = 24;

/** The waveform in small as an SVG path: one closed shape, so that a thousand rows stay light. */
function pathOf(base64: string): { path: string; bins: number } {
  const bytes = Int8Array.from(atob(base64), (char) => char.charCodeAt(0));
  const bins = bytes.length / 2;
  const y = (value: number) => (HEIGHT / 2) * (1 - value / 127);
  const top = Array.from({ length: bins }, (_, i) => `${i} ${(y(bytes[2 * i + 1] ?? 0) - 0.4).toFixed(1)}`);
  const bottom = Array.from({ length: bins }, (_, i) => `${i} ${(y(bytes[2 * i] ?? 0) + 0.4).toFixed(1)}`).reverse();
  return { path: bins > 0 ? `M${top.join('L')}L${bottom.join('L')}Z` : '', bins };
}

/** The waveform of a whole source in small. */
export const SmallWaveform = memo(function SmallWaveform({ waveform }: { waveform: string }) {
  const { path, bins } = pathOf(waveform);
  return (
    <svg
      viewBox={`0 0 ${Math.max(1, bins - 1)} ${HEIGHT}`}
      preserveAspectRatio="none"
      className="h-6 w-full text-graphite"
      aria-hidden="true"
    >
      <path d={path} fill="currentColor" />
    </svg>
  );
});
