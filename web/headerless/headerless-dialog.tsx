import { RadioGroup } from '@headlessui/react';
import {
  encodingTitle,
  formatBytes,
  formatChannels,
  formatLength,
  formatRate,
  type LikelyReading,
  type Reading,
} from '@tambur/core';
import { Play, Square } from 'lucide-react';
import { useEffect, useState } from 'react';
import { usePcmPlayer } from '../sound/pcm-player.ts';
import { headerlessWorker } from '../sound/workers/workers.ts';
import { Button } from '../ui/button.tsx';
import { Modal } from '../ui/modal.tsx';
import { Offer } from './offer.tsx';
import { PcmPicture } from './pcm-picture.tsx';
import { ReadingForm } from './reading-form.tsx';
import { isSame } from './readings.ts';
import { useReading } from './use-reading.ts';

interface Props {
  readonly file: File;
  readonly onRead: (reading: Reading) => void;
  readonly onClose: () => void;
}

/** So much of a file is shown and heard before it is taken; a multiple of every frame's size. */
const MOST_BYTES = 24 * 1_000_000;
/** Readings that are offered with a picture each. */
const OFFERED = 6;

/** What headerless bytes are: ranked readings, each with its picture and its sound, and every choice by hand. */
export function HeaderlessDialog({ file, onRead, onClose }: Props) {
  const [bytes, setBytes] = useState<Uint8Array | null>(null);
  const [likely, setLikely] = useState<readonly LikelyReading[]>([]);
  const [reading, setReading] = useState<Reading | null>(null);
  const [problem, setProblem] = useState<string | null>(null);

  useEffect(() => {
    file
      .slice(0, MOST_BYTES)
      .arrayBuffer()
      .then((buffer) => setBytes(new Uint8Array(buffer)))
      .catch((error: Error) => setProblem(`${file.name} cannot be read: ${error.message}.`));
  }, [file]);

  const skip = reading?.skip ?? 0;
  useEffect(() => {
    if (!bytes) return;
    let isLate = false;
    headerlessWorker
      .run((remote) => remote.likelyReadings(bytes, skip))
      .then((found) => {
        if (isLate) return;
        setLikely(found);
        setReading((before) => before ?? found[0]?.reading ?? null);
      })
      .catch((error: Error) => !isLate && setProblem(error.message));
    return () => {
      isLate = true;
    };
  }, [bytes, skip]);

  const heard = useReading(bytes, reading);
  const player = usePcmPlayer(heard.pcm);
  const rank = reading ? likely.findIndex((entry) => isSame(entry.reading, reading)) : -1;

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
        value={likely.find((entry) => reading && isSame(reading, entry.reading)) ?? null}
        onChange={(entry: LikelyReading | null) =>
          entry && setReading({ ...entry.reading, skip, sampleRate: reading?.sampleRate ?? entry.reading.sampleRate })
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
          <ReadingForm reading={reading} size={file.size} onChange={setReading}>
            <Button disabled={!heard.pcm} onClick={player.toggle}>
              {player.playing ? <Square className="size-3.5" aria-hidden /> : <Play className="size-3.5" aria-hidden />}
              {player.playing ? 'Stop' : 'Listen'}
            </Button>
          </ReadingForm>
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
