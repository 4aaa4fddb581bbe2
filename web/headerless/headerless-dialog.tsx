import { Radio, RadioGroup } from '@headlessui/react';
import {
  encodingTitle,
  findEncoding,
  formatBytes,
  formatChannels,
  formatLength,
  formatRate,
  headerless,
  LARGEST_RATE,
  type LikelyReading,
  MOST_CHANNELS,
  type Pcm,
  type Reading,
} from '@tambur/core';
import * as Comlink from 'comlink';
import { Play, Square } from 'lucide-react';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Canvas } from '../sound/canvas.tsx';
import { usePcmPlayer } from '../sound/pcm-player.ts';
import { drawWaveform, extentOfSamples } from '../sound/waveform.ts';
import { headerlessWorker } from '../sound/workers/workers.ts';
import { Button } from '../ui/button.tsx';
import { Modal } from '../ui/modal.tsx';
import { NumberField } from '../ui/number-field.tsx';
import { OtherPcm } from '../ui/other-pcm.tsx';
import { Select } from '../ui/select.tsx';
import { colour } from '../ui/theme.ts';

interface Props {
  readonly file: File;
  readonly onRead: (reading: Reading) => void;
  readonly onClose: () => void;
}

/** So much of a file is shown and heard before it is taken; a multiple of every frame's size. */
const MOST_BYTES = 24 * 1_000_000;
/** Seconds that are drawn and heard. */
const SECONDS = 20;
/** Readings that are offered with a picture each. */
const OFFERED = 6;

/** Encodings of single samples have bits that may be unused; packed ones and ADPCM have not. */
const isSampleBySample = (id: string) => findEncoding(id)?.kind !== 'block';

/** The bytes of one sample, at most: where several share bytes, of each. */
function bytesOfSample(id: string): number {
  const encoding = findEncoding(id);
  return encoding && encoding.kind !== 'block' ? encoding.bytesPerSample : Math.ceil((encoding?.bitDepth ?? 8) / 8);
}

const same = (a: Reading, b: Reading) => a.encoding === b.encoding && a.channels === b.channels;

/** What headerless bytes are: ranked readings, each with its picture and its sound, and every choice by hand. */
export function HeaderlessDialog({ file, onRead, onClose }: Props) {
  const [bytes, setBytes] = useState<Uint8Array | null>(null);
  const [likely, setLikely] = useState<readonly LikelyReading[]>([]);
  const [reading, setReading] = useState<Reading | null>(null);
  const [skip, setSkip] = useState(0);
  const [problem, setProblem] = useState<string | null>(null);

  useEffect(() => {
    file
      .slice(0, MOST_BYTES)
      .arrayBuffer()
      .then((buffer) => setBytes(new Uint8Array(buffer)))
      .catch((error: Error) => setProblem(`${file.name} cannot be read: ${error.message}.`));
  }, [file]);

  useEffect(() => {
    if (!bytes) return;
    let isLate = false;
    headerlessWorker
      .run((remote) => remote.likelyReadings(bytes, skip))
      .then((found) => {
        if (isLate) return;
        setLikely(found);
        setReading((before) => (before ? { ...before, skip } : (found[0]?.reading ?? null)));
      })
      .catch((error: Error) => !isLate && setProblem(error.message));
    return () => {
      isLate = true;
    };
  }, [bytes, skip]);

  const heard = useReading(bytes, reading);
  const player = usePcmPlayer(heard.pcm);
  const change = (part: Partial<Reading>) => reading && setReading({ ...reading, ...part });
  const width = reading ? (findEncoding(reading.encoding)?.bitDepth ?? 8) : 8;
  const rank = reading ? likely.findIndex((entry) => same(entry.reading, reading)) : -1;

  return (
    <Modal
      wide
      title={`What is ${file.name}?`}
      onClose={onClose}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="main" disabled={!reading || !heard.pcm} onClick={() => reading && onRead(reading)}>
            Use this reading
          </Button>
        </>
      }
    >
      <p className="text-sm text-graphite">
        {formatBytes(file.size)} without a header: nothing in them says what they are. Below are the likely readings,
        the most likely first; look for a smooth wave, and listen.
      </p>
      {problem && (
        <p role="alert" className="mt-2 border-l-4 border-brick bg-brick-tint px-2 py-1">
          {problem}
        </p>
      )}
      {!problem && likely.length === 0 && <p className="mt-4 text-graphite">Comparing the readings …</p>}
      <RadioGroup
        className="mt-3 grid gap-2 sm:grid-cols-2"
        aria-label="Likely readings"
        value={likely.find((entry) => reading && same(reading, entry.reading)) ?? null}
        onChange={(entry: LikelyReading | null) =>
          entry && setReading({ ...entry.reading, sampleRate: reading?.sampleRate ?? entry.reading.sampleRate })
        }
      >
        {likely.slice(0, OFFERED).map((entry, i) => (
          <Offer key={`${entry.reading.encoding} ${entry.reading.channels}`} rank={i + 1} entry={entry} bytes={bytes} />
        ))}
      </RadioGroup>
      {reading && (
        <div className="mt-5 border-t border-hairline pt-4">
          <div className="flex flex-wrap items-baseline justify-between gap-x-4">
            <h3 className="font-semibold">
              {encodingTitle(reading.encoding)}, {formatChannels(reading.channels)}, {formatRate(reading.sampleRate)}
            </h3>
            {heard.pcm && (
              <span className="figure text-sm text-graphite">
                {formatLength(heard.pcm.channels[0]?.length ?? 0, reading.sampleRate)}
                {file.size > MOST_BYTES && ' of the first 24 MB'}
              </span>
            )}
          </div>
          {heard.problem ? (
            <p role="alert" className="mt-2 border-l-4 border-brick bg-brick-tint px-2 py-1">
              {heard.problem}
            </p>
          ) : (
            <PcmPicture
              pcm={heard.pcm}
              className="mt-2 h-24 w-full border-y border-hairline"
              label="Waveform of this reading"
            />
          )}
          <div className="mt-3 flex flex-wrap items-end gap-x-4 gap-y-3">
            <Button disabled={!heard.pcm} onClick={player.toggle}>
              {player.playing ? <Square className="size-3.5" aria-hidden /> : <Play className="size-3.5" aria-hidden />}
              {player.playing ? 'Stop' : 'Listen'}
            </Button>
            <div className="w-56">
              <Select
                label="Encoding"
                value={reading.encoding}
                options={[...new Set([...headerless.carries, reading.encoding])].map((id) => ({
                  value: id,
                  label: encodingTitle(id),
                }))}
                onChange={(encoding) => change({ encoding, bits: undefined })}
              />
            </div>
            <div className="w-28">
              <NumberField
                label="Channels"
                value={reading.channels}
                unit=""
                range={{ least: 1, most: MOST_CHANNELS }}
                onChange={(channels) => change({ channels })}
              />
            </div>
            <div className="w-36">
              <NumberField
                label="Sample rate"
                value={reading.sampleRate}
                unit="Hz"
                range={{ least: 1, most: LARGEST_RATE }}
                onChange={(sampleRate) => change({ sampleRate })}
              />
            </div>
            <div className="w-32">
              <NumberField
                label="Skip at the start"
                value={skip}
                unit="bytes"
                range={{ least: 0, most: Math.max(0, file.size - 1) }}
                onChange={setSkip}
              />
            </div>
            {isSampleBySample(reading.encoding) && (
              <div className="w-32">
                <NumberField
                  label="Bits used"
                  value={reading.bits ?? width}
                  unit={`of ${width}`}
                  range={{ least: 1, most: width }}
                  onChange={(bits) => change({ bits: bits === width ? undefined : bits })}
                />
              </div>
            )}
          </div>
          <div className="mt-3">
            <OtherPcm encoding={reading.encoding} onChange={(encoding) => change({ encoding, bits: undefined })} />
          </div>
          <p className="mt-3 text-sm text-graphite">
            The bytes do not tell the rate: if it sounds too slow and low, raise it; the ratio of the rates is the ratio
            of the pitches.
            {rank >= OFFERED && ` Of all readings this one is number ${rank + 1}: ${likely[rank]?.why}.`}
          </p>
        </div>
      )}
    </Modal>
  );
}

/** The first seconds of the bytes in one reading. */
function useReading(bytes: Uint8Array | null, reading: Reading | null): { pcm: Pcm | null; problem: string | null } {
  const [outcome, setOutcome] = useState<{ pcm: Pcm | null; problem: string | null }>({ pcm: null, problem: null });
  useEffect(() => {
    if (!bytes || !reading) return;
    let isLate = false;
    const depth = bytesOfSample(reading.encoding);
    const most = Math.ceil(SECONDS * reading.sampleRate) * depth * reading.channels + (reading.skip ?? 0);
    const part = bytes.slice(0, most);
    headerlessWorker
      .run((remote) => remote.readAs(Comlink.transfer(part, [part.buffer]), reading))
      .then((result) => {
        if (isLate) return;
        setOutcome('pcm' in result ? { pcm: result.pcm, problem: null } : { pcm: null, problem: result.refused });
      })
      .catch((error: Error) => !isLate && setOutcome({ pcm: null, problem: error.message }));
    return () => {
      isLate = true;
    };
  }, [bytes, reading]);
  return outcome;
}

/** One likely reading: its name, its picture, and what speaks for it. */
function Offer({
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

function PcmPicture({ pcm, className, label }: { pcm: Pcm | null; className: string; label: string }) {
  const extent = useMemo(() => (pcm ? extentOfSamples(pcm.channels) : null), [pcm]);
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) => {
      context.clearRect(0, 0, width, height);
      if (!pcm || !extent) return;
      const ink = colour('ink');
      drawWaveform(
        context,
        width,
        height,
        { from: 0, to: pcm.channels[0]?.length ?? 1 },
        pcm.channels.length,
        extent,
        () => ink,
      );
    },
    [pcm, extent],
  );
  return <Canvas label={label} className={className} draw={draw} />;
}
