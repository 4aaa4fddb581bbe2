import { formatCount, formatSeconds, fromDb, pieceOf, sourceFrame } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useMemo, useState } from 'react';
import { Canvas } from '../sound/canvas.tsx';
import { sourceReader } from '../sound/samples.ts';
import { Slider } from '../ui/slider.tsx';
import { colour } from '../ui/theme.ts';
import type { Preview } from './use-preview.ts';

interface Props {
  readonly preview: Preview;
  readonly source: SourceView;
}

/** Frames of the result that are shown. */
const SHOWN = 120;

/** Where the result is loudest: there is most to be seen. */
function loudestFrame(samples: Float32Array): number {
  let found = 0;
  for (let i = 1; i < samples.length; i++) {
    if (Math.abs(samples[i] ?? 0) > Math.abs(samples[found] ?? 0)) found = i;
  }
  return found;
}

/** A sample as the device has it: its level where it has levels, and its value. */
const valueWords = (value: number, bits: number | null): string => {
  const plain = value.toFixed(5).replace('-', '\u2212');
  if (bits === null || bits > 16) return plain;
  return `level ${formatCount(Math.round(value * 2 ** (bits - 1)))}, ${plain}`;
};

/** Some frames of the result as the steps that a converter makes, over the source at the level that it was given. */
export function Magnifier({ preview, source }: Props) {
  const { pcm, chain, report, piece } = preview;
  const result = pcm.channels[0] ?? new Float32Array(0);
  const loudest = useMemo(() => loudestFrame(result), [result]);
  const [moved, setMoved] = useState<number | null>(null);
  const last = Math.max(0, result.length - SHOWN);
  const from = Math.min(last, moved ?? Math.max(0, loudest - Math.floor(SHOWN / 2)));

  const middle = Math.min(result.length - 1, from + SHOWN / 2);
  const { rate } = chain.stations;
  const ratio = rate.plan.from / rate.plan.to;
  const place = sourceFrame(piece ? pieceOf(chain, piece).chain : chain, report, from);
  const sourceFrom = Math.max(0, Math.min(source.facts.frames - 2, Math.floor(place)));
  const count = Math.max(2, Math.min(source.facts.frames - sourceFrom, Math.ceil(SHOWN * ratio) + 1));
  const samples = useQuery({
    queryKey: ['samples', source.id, sourceFrom, count],
    queryFn: () => sourceReader(source).read(sourceFrom, count),
    gcTime: 10_000,
    placeholderData: (before) => before,
  });

  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) => {
      context.fillStyle = colour('sheet');
      context.fillRect(0, 0, width, height);
      // What is shown fills the height.
      let most = 1e-4;
      for (let i = from; i < Math.min(result.length, from + SHOWN); i++)
        most = Math.max(most, Math.abs(result[i] ?? 0));
      const y = (value: number) => height / 2 - (Math.max(-1.2, Math.min(1.2, value / most)) * height) / 2.5;
      context.fillStyle = colour('hairline');
      context.fillRect(0, height / 2, width, 1);
      const row = chain.stations.channels.plan.matrix[0] ?? [1];
      const gain = fromDb(report.gainDb);
      context.strokeStyle = colour('graphite');
      context.lineWidth = 1;
      context.beginPath();
      const first = samples.data?.[0];
      for (let i = 0; first && i < first.length; i++) {
        let value = 0;
        for (let c = 0; c < row.length; c++) value += (row[c] ?? 0) * (samples.data?.[c]?.[i] ?? 0);
        context.lineTo(((i / ratio + 0.5) / SHOWN) * width, y(value * gain));
      }
      context.stroke();
      // The frame whose value is shown.
      context.fillStyle = colour('saffron-mark');
      context.fillRect(((middle + 0.5 - from) / SHOWN) * width, 0, 1, height);
      context.strokeStyle = colour('pine');
      context.lineWidth = 1.5;
      context.beginPath();
      for (let i = 0; i < Math.min(SHOWN, result.length - from); i++) {
        const level = y(result[from + i] ?? 0);
        context.lineTo((i / SHOWN) * width, level);
        context.lineTo(((i + 1) / SHOWN) * width, level);
      }
      context.stroke();
    },
    [result, from, middle, samples.data, chain, report.gainDb, ratio],
  );

  return (
    <figure className="min-w-0">
      <figcaption className="flex flex-wrap items-baseline gap-x-4 text-sm text-graphite">
        <span className="label">Magnifier</span>
        <span>
          {SHOWN} frames: <span className="text-pine">as steps, the result</span>; thin, what came, at the same level
        </span>
      </figcaption>
      <div className="relative mt-1 h-32 border-y border-hairline">
        <Canvas
          label={`Frames ${from} to ${from + SHOWN} of the result as steps, over the source`}
          className="absolute inset-0 size-full"
          draw={draw}
        />
      </div>
      {last > 0 && (
        <div className="mt-1">
          <Slider
            label="Place"
            shown={`${formatSeconds(middle / pcm.sampleRate)}, frame ${formatCount(middle)}: ${valueWords(result[middle] ?? 0, chain.stations.depth.plan.bits)}`}
            value={from}
            range={{ least: 0, most: last }}
            step={1}
            onChange={setMoved}
          />
        </div>
      )}
    </figure>
  );
}
