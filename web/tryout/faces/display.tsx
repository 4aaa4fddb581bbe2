import { formatSeconds, frameCount, type Pcm } from '@tambur/core';
import { useCallback, useMemo } from 'react';
import { useStore } from 'zustand';
import { Canvas } from '../../sound/canvas.tsx';
import { asOneBand, drawWaveform, extentOfSamples, strengthOfSamples } from '../../sound/waveform.ts';
import { colour } from '../../ui/theme.ts';
import type { FaceProps } from './face.ts';

/** What the device shows while it sounds: a lit lamp, the entry's name, its wave and where in it the device is. */
export function Display({ performer, entries }: Pick<FaceProps, 'performer' | 'entries'>) {
  const { playing, last, side, place } = useStore(performer.store);
  // Until its turn has come, what was played last is another entry's.
  const sound = playing === null || place === null ? undefined : last?.[side][0];
  const name = entries.find(({ path }) => path === playing)?.name;
  return (
    <div className="flex h-12 items-stretch gap-3 border border-rule bg-paper" data-testid="display">
      <p className="flex w-40 shrink-0 items-center gap-2 border-r border-rule px-3 max-sm:w-28">
        <span aria-hidden className={`inline-block size-3 shrink-0 border border-ink ${playing ? 'bg-pine' : ''}`} />
        <span className={`truncate ${name ? 'font-semibold' : 'text-graphite'}`}>{name ?? 'silent'}</span>
      </p>
      <div className="relative min-w-0 flex-1">
        {sound && <Wave label={`Wave of ${name ?? 'what sounds'}`} sound={sound} place={place ?? 0} />}
      </div>
      <p className="figure w-20 shrink-0 self-center pr-3 text-right text-sm">
        {sound && formatSeconds(Math.min(place ?? 0, frameCount(sound)) / sound.sampleRate)}
      </p>
    </div>
  );
}

/** @param place frames from the start of the sound */
function Wave({ label, sound, place }: { readonly label: string; readonly sound: Pcm; readonly place: number }) {
  const frames = frameCount(sound);
  const look = useMemo(
    () => asOneBand(sound.channels.length, extentOfSamples(sound.channels), strengthOfSamples(sound.channels)),
    [sound],
  );
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) => {
      const [pine, peak] = [colour('pine'), colour('pine-peak')];
      const ribbon = look.strength && { strength: look.strength, peakAt: () => peak };
      drawWaveform(context, width, height, { from: 0, to: frames }, 1, look.extent, () => pine, ribbon);
    },
    [look, frames],
  );
  const share = frames > 0 ? Math.min(1, place / frames) : 0;
  return (
    <>
      <Canvas label={label} className="absolute inset-0 size-full" draw={draw} />
      <div className="absolute inset-y-0 w-0.5 bg-brick" style={{ left: `${100 * share}%` }} />
    </>
  );
}
