import { memo } from 'react';
import { HEIGHT, pathsOf } from './waveform-paths.ts';

interface Props {
  readonly waveform: string;
  /** Shares of the source, 0..1: where what is shown begins and ends; all of it if nothing is said. */
  readonly from?: number;
  readonly to?: number;
}

/** The waveform of a source in small. */
export const SmallWaveform = memo(function SmallWaveform({ waveform, from = 0, to = 1 }: Props) {
  const { peaks, ribbon, bins } = pathsOf(waveform);
  const last = Math.max(1, bins - 1);
  return (
    <svg
      viewBox={`${from * last} 0 ${Math.max(0.01, (to - from) * last)} ${HEIGHT}`}
      preserveAspectRatio="none"
      className="h-6 w-full"
      aria-hidden="true"
    >
      <path d={peaks} fill={ribbon ? 'var(--ink-peak)' : 'var(--graphite)'} />
      <path d={ribbon} fill="var(--graphite)" />
    </svg>
  );
});
