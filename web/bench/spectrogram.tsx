import { formatDb, formatRate, formatSeconds, frameCount, noteOf, type Spectrogram } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useQuery } from '@tanstack/react-query';
import { type PointerEvent, useCallback, useMemo, useState } from 'react';
import { Canvas } from '../sound/canvas.tsx';
import type { Cut } from '../sound/cut.ts';
import { measureWorker } from '../sound/workers/workers.ts';
import { colour, useIsDark } from '../ui/theme.ts';
import type { Preview } from './use-preview.ts';

interface Props {
  readonly source: SourceView;
  readonly cut: Cut;
  readonly preview: Preview | null;
  /** Hz of the result: nothing above half of it survives. */
  readonly rate: number;
}

/** dB from which on something is seen. */
const FLOOR = -110;

type Rgb = readonly [number, number, number];
const rgbOf = (token: string): Rgb => {
  const hex = colour(token).replace('#', '');
  return [0, 2, 4].map((at) => Number.parseInt(hex.slice(at, at + 2), 16)) as unknown as Rgb;
};

/** From the ground through our green to ink: each step darker (in the dark theme lighter), so that hue is not needed. */
function ramp(): readonly Rgb[] {
  const stops = [rgbOf('sheet'), rgbOf('pine'), rgbOf('ink')];
  return Array.from({ length: 256 }, (_, i) => {
    const place = (i / 255) * (stops.length - 1);
    const first = Math.min(stops.length - 2, Math.floor(place));
    const mixed = [0, 1, 2].map((k) => {
      const [a, b] = [stops[first]?.[k] ?? 0, stops[first + 1]?.[k] ?? 0];
      return a + (b - a) * (place - first);
    });
    return mixed as unknown as Rgb;
  });
}

/** Levels as a picture: one pixel for each, the lowest frequency at the bottom; clear if there are none. */
function pictureOf({ columns, rows, levels }: Spectrogram): HTMLCanvasElement {
  const picture = document.createElement('canvas');
  picture.width = columns;
  picture.height = rows;
  const context = picture.getContext('2d');
  if (!context) return picture;
  const colours = ramp();
  const image = context.createImageData(columns, rows);
  for (let column = 0; column < columns; column++) {
    for (let row = 0; row < rows; row++) {
      const level = levels[column * rows + row] ?? Number.NaN;
      if (Number.isNaN(level)) continue;
      const part = Math.max(0, Math.min(1, 1 - level / FLOOR));
      const at = ((rows - 1 - row) * columns + column) * 4;
      image.data.set([...(colours[Math.round(255 * part)] ?? colours[0] ?? [0, 0, 0]), 255], at);
    }
  }
  context.putImageData(image, 0, 0);
  return picture;
}

/** Source above result on one scale of frequency, with half of the new rate, and what is lost above it. */
export default function Spectrograms({ source, cut: { start, end }, preview, rate }: Props) {
  const [reading, setReading] = useState('');
  const { sampleRate } = source.facts;
  const top = Math.max(sampleRate, rate) / 2;
  const came = useQuery({
    queryKey: ['spectrogram', source.id, start, end, top],
    queryFn: () => measureWorker.run((remote) => remote.spectrogramOfCut(source, start, end, top)),
    placeholderData: (before: Spectrogram | undefined) => before,
    gcTime: 30_000,
  });
  const leaves = useQuery({
    queryKey: ['spectrogram of the result', preview?.id, top],
    queryFn: () => preview && measureWorker.run((remote) => remote.spectrogramOfSound(preview.pcm, top)),
    enabled: preview !== null,
    placeholderData: (before: Spectrogram | null | undefined) => before,
    gcTime: 0,
  });
  const length = preview ? frameCount(preview.pcm) / preview.pcm.sampleRate : 0;
  const shared = { edge: rate / 2, onReading: setReading };
  return (
    <div className="grid gap-1">
      <One title="as it came" found={came.data ?? null} seconds={(end - start) / sampleRate} isSource {...shared} />
      <One title="as it leaves" found={leaves.data ?? null} seconds={length} {...shared} />
      <p className="figure min-h-5 text-xs text-graphite" data-testid="spectrum-reading">
        {reading}
      </p>
    </div>
  );
}

interface OneProps {
  readonly title: string;
  readonly found: Spectrogram | null;
  readonly edge: number;
  readonly seconds: number;
  readonly isSource?: boolean;
  readonly onReading: (words: string) => void;
}

function One({ title, found, edge, seconds, isSource = false, onReading }: OneProps) {
  const isDark = useIsDark();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the theme changes the colours
  const picture = useMemo(() => (found ? pictureOf(found) : null), [found, isDark]);
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) => {
      context.fillStyle = colour('paper');
      context.fillRect(0, 0, width, height);
      if (!picture || !found) return;
      context.imageSmoothingEnabled = false;
      context.drawImage(picture, 0, 0, width, height);
      if (edge >= found.top) return;
      const y = height * (1 - edge / found.top);
      if (isSource) {
        // What is lost is shaded.
        context.fillStyle = colour('brick');
        context.globalAlpha = 0.12;
        context.fillRect(0, 0, width, y);
        context.globalAlpha = 1;
      }
      context.strokeStyle = colour('brick');
      context.setLineDash([4, 3]);
      context.beginPath();
      context.moveTo(0, y);
      context.lineTo(width, y);
      context.stroke();
      context.setLineDash([]);
    },
    [picture, found, edge, isSource],
  );
  const read = ({ clientX, clientY, currentTarget }: PointerEvent<HTMLElement>) => {
    if (!found) return;
    const { left, top, width, height } = currentTarget.getBoundingClientRect();
    const place = [(clientX - left) / width, 1 - (clientY - top) / height] as const;
    const column = Math.min(found.columns - 1, Math.max(0, Math.floor(place[0] * found.columns)));
    const row = Math.min(found.rows - 1, Math.max(0, Math.floor(place[1] * found.rows)));
    const level = found.levels[column * found.rows + row] ?? Number.NaN;
    const hz = Math.max(0, place[1] * found.top);
    const words = Number.isNaN(level) ? 'nothing can be here' : level === -Infinity ? 'silence' : formatDb(level, 'dB');
    onReading(
      [formatSeconds(place[0] * seconds), formatRate(Math.round(hz)), noteOf(hz), words].filter(Boolean).join(' · '),
    );
  };
  return (
    <div className="relative h-24 border border-hairline" onPointerMove={read} onPointerLeave={() => onReading('')}>
      <Canvas
        label={`Spectrogram, ${title}, up to ${formatRate(found?.top ?? 0)}${isSource ? `; what is above ${formatRate(edge)} is lost` : ''}`}
        className="absolute inset-0 size-full"
        draw={draw}
      />
      <span className="pointer-events-none absolute top-0 left-0 bg-paper/80 px-1 text-xs text-graphite">{title}</span>
    </div>
  );
}
