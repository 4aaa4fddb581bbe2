import type { Cut } from '../sound/cut.ts';
import { drawGrid, drawMarks, type Marks } from '../sound/marks.ts';
import type { View } from '../sound/view.ts';
import { drawSamples, drawWaveform, type Extent, type Strength } from '../sound/waveform.ts';
import { colour } from '../ui/theme.ts';

/** Drawn as samples where at least this many pixels fall on a frame. */
const SAMPLES_FROM = 3;

interface SourcePicture {
  readonly channels: number;
  readonly cut: Cut;
  readonly view: View;
  /** Undefined until it is there. */
  readonly extent: Extent | undefined;
  readonly strength: Strength | null;
  readonly samples: Parameters<typeof drawSamples>[4] | null;
  readonly marks: Marks;
  /** Frames of a bar; null if there is no tempo. */
  readonly bar: number | null;
}

/** Draws a source's wave, pale outside its cut, with bars and marks. */
export function drawSource(context: CanvasRenderingContext2D, width: number, height: number, picture: SourcePicture) {
  const { channels, cut, view, extent, strength, samples, marks, bar } = picture;
  context.fillStyle = colour('sheet');
  context.fillRect(0, 0, width, height);
  context.fillStyle = colour('hairline');
  for (let channel = 0; channel < channels; channel++) {
    context.fillRect(0, (height / channels) * (channel + 0.5), width, 1);
  }
  if (!extent) return;
  const outside = colour('rule');
  const within = (inside: string) => (frame: number) => (frame >= cut.start && frame < cut.end ? inside : outside);
  const colourAt = within(colour('ink'));
  if (samples && width / (view.to - view.from) >= SAMPLES_FROM) {
    drawSamples(context, width, height, view, samples, colourAt);
  } else {
    const peaks = strength && { strength, peakAt: within(colour('ink-peak')) };
    drawWaveform(context, width, height, view, channels, extent, colourAt, peaks);
  }
  if (bar) drawGrid(context, width, height, view, { from: cut.start, to: cut.end, step: bar }, colour('saffron-mark'));
  drawMarks(context, width, height, view, marks, { flattened: colour('brick'), silence: colour('graphite') });
}
