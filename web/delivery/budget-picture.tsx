import { formatBytes, formatPercent } from '@tambur/core';
import type { ArtifactView } from '@tambur/server';

interface Props {
  readonly artifacts: readonly ArtifactView[];
  readonly mostBytes: number;
}

/** Shades that follow each other, so that neighbours are told apart. */
const SHADES = ['bg-pine', 'bg-pine/60'] as const;

/** How much of the memory each clip takes. */
export function BudgetPicture({ artifacts, mostBytes }: Props) {
  const parts = artifacts.flatMap(({ parts: inFile, clips }) =>
    inFile.map(({ facts }, i) => ({ title: clips[i] ?? '', bytes: facts.soundBytes ?? facts.bytes })),
  );
  const total = parts.reduce((sum, { bytes }) => sum + bytes, 0);
  const scale = Math.max(total, mostBytes);
  return (
    <figure className="mt-4">
      <figcaption className="flex justify-between text-sm">
        <span className="label">memory</span>
        <span className="figure">
          {formatBytes(total)} of {formatBytes(mostBytes)}, {formatPercent(total / mostBytes)}
        </span>
      </figcaption>
      <div className="relative mt-1 flex h-6 border border-rule bg-sheet">
        {parts.map(({ title, bytes }, i) => (
          <span
            // biome-ignore lint/suspicious/noArrayIndexKey: parts do not move
            key={i}
            title={`${title}: ${formatBytes(bytes)}`}
            className={`h-full border-r border-paper ${total > mostBytes ? 'bg-brick' : SHADES[i % 2]}`}
            style={{ width: `${(100 * bytes) / scale}%` }}
          />
        ))}
        {total > mostBytes && (
          <span
            className="absolute -inset-y-1 border-l-2 border-ink"
            style={{ left: `${(100 * mostBytes) / scale}%` }}
          />
        )}
      </div>
      <ul className="mt-1 flex flex-wrap gap-x-4 text-xs text-graphite">
        {parts.map(({ title, bytes }, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: parts do not move
          <li key={i}>
            {title} <span className="figure">{formatPercent(bytes / mostBytes)}</span>
          </li>
        ))}
      </ul>
    </figure>
  );
}
