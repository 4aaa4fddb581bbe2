import { Radio } from '@headlessui/react';
import { encodingTitle, formatChannels, type LikelyReading } from '@tambur/core';
import { PcmPicture } from './pcm-picture.tsx';
import { useReading } from './use-reading.ts';

/** One likely reading: its name, its picture, and what speaks for it. */
export function Offer({
  rank,
  entry,
  bytes,
}: {
  readonly rank: number;
  readonly entry: LikelyReading;
  readonly bytes: Uint8Array | null;
}) {
  const { pcm } = useReading(bytes, entry.reading);
  return (
    <Radio
      value={entry}
      className="block cursor-pointer border border-hairline bg-sheet p-2 hover:border-rule data-checked:border-pine data-checked:bg-pine-tint data-focus:outline-2 data-focus:outline-offset-2 data-focus:outline-pine"
    >
      <span className="flex items-baseline gap-2">
        <span className="figure text-sm text-graphite">{rank}</span>
        <span className="min-w-0 flex-1 truncate font-semibold">
          {encodingTitle(entry.reading.encoding)}, {formatChannels(entry.reading.channels)}
        </span>
      </span>
      <PcmPicture
        pcm={pcm}
        className="mt-1 h-12 w-full"
        label={`Waveform as ${encodingTitle(entry.reading.encoding)}`}
      />
      <span className="mt-1 block text-sm text-graphite">{entry.why}</span>
    </Radio>
  );
}
