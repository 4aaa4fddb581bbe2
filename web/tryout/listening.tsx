import { formatRate, formatSeconds, type ListeningReport, messageOf } from '@tambur/core';
import { Mic } from 'lucide-react';
import { lazy, Suspense, useRef, useState } from 'react';
import { tryoutWorker } from '../sound/workers/workers.ts';
import { Button } from '../ui/button.tsx';

const RecordDialog = lazy(async () => ({ default: (await import('../record/record-dialog.tsx')).RecordDialog }));

interface Props {
  readonly path: string;
  /** What a file was made of, if that is at hand. */
  readonly sourceOf: (path: string) => Promise<Uint8Array | null>;
}

/** A recording of the device: what it did with the file, with how sure that is. Of another file it is another one. */
export function Listening({ path, sourceOf }: Props) {
  const [isRecording, setRecording] = useState(false);
  const [heard, setHeard] = useState<ListeningReport | null>(null);
  const [state, setState] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const listen = async (file: File) => {
    setHeard(null);
    setState('Listening …');
    try {
      const bytes = new Uint8Array(await file.arrayBuffer());
      const source = (await sourceOf(path)) ?? undefined;
      const found = await tryoutWorker.run((remote) => remote.listen(path, bytes, source));
      if ('refused' in found) return setState(found.refused);
      setHeard(found);
      setState('');
    } catch (error) {
      setState(messageOf(error));
    }
  };
  return (
    <div className="mt-6 border-t border-hairline pt-3">
      <h3 className="font-semibold">Listen to the device</h3>
      <p className="text-sm text-graphite">
        Let it play {path} and record it, or take a recording made with a telephone. It never leaves this machine.
      </p>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Button onClick={() => setRecording(true)}>
          <Mic className="size-4" aria-hidden /> Record
        </Button>
        <Button onClick={() => input.current?.click()}>Choose a recording</Button>
        <input
          ref={input}
          type="file"
          accept="audio/*,video/*"
          aria-label="A recording of the device"
          className="sr-only"
          onChange={({ target }) => {
            const [file] = target.files ?? [];
            if (file) void listen(file);
            target.value = '';
          }}
        />
        <p role="status" className="text-sm text-graphite">
          {state}
        </p>
      </div>
      {heard && <Found heard={heard} />}
      {isRecording && (
        <Suspense fallback={null}>
          <RecordDialog
            onKeep={(file) => {
              setRecording(false);
              void listen(file);
            }}
            onClose={() => setRecording(false)}
          />
        </Suspense>
      )}
    </div>
  );
}

function Found({ heard }: { heard: ListeningReport }) {
  const {
    best,
    runnerUp,
    sampleRate,
    delay,
    missingAtStart = 0,
    missingAtEnd = 0,
    gap = null,
    band,
    isClipped,
  } = heard;
  const rows: readonly (readonly [string, string])[] = [
    ...(sampleRate === null ? [] : [['plays at', formatRate(Math.round(sampleRate))] as const]),
    ...(delay === null ? [] : [['begins after', formatSeconds(delay)] as const]),
    ...(missingAtStart > 0 ? [['missing at the start', formatSeconds(missingAtStart)] as const] : []),
    ...(missingAtEnd > 0 ? [['missing at the end', formatSeconds(missingAtEnd)] as const] : []),
    ...(gap === null ? [] : [['between rounds', formatSeconds(gap)] as const]),
    ...(band === null ? [] : [['heard', `${formatRate(band.low)} to ${formatRate(band.high)}`] as const]),
  ];
  return (
    <div className="mt-3 border-l-4 border-pine bg-pine-tint px-3 py-2" aria-live="polite">
      <p className="font-semibold">
        {best.title} <span className="figure text-sm font-normal">{Math.round(100 * best.confidence)} %</span>
      </p>
      {runnerUp && (
        <p className="text-sm text-graphite">
          Or else: {runnerUp.title} <span className="figure">{Math.round(100 * runnerUp.confidence)} %</span>
        </p>
      )}
      <dl className="mt-1 grid grid-cols-[10rem_minmax(0,1fr)] text-sm">
        {rows.map(([title, value]) => (
          <div key={title} className="contents">
            <dt className="text-graphite">{title}</dt>
            <dd className="figure">{value}</dd>
          </div>
        ))}
      </dl>
      {isClipped && <p className="text-sm">The recording is overdriven; record it more softly to be sure.</p>}
    </div>
  );
}
