import type { Pcm } from '@tambur/core';
import { messageOf, type SymptomId, symptoms, type Target } from '@tambur/core';
import type { ShelfView } from '@tambur/server';
import { Download, Ear } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { useStore } from 'zustand';
import { startDelivery } from '../api/queries.ts';
import { takeMend } from '../job/job-change.ts';
import { PickDialog } from '../shelf/pick-dialog.tsx';
import { usePcmPlayer } from '../sound/pcm-player.ts';
import type { DeviceView, ShownAnswer, ShownCause } from '../sound/workers/tryout-worker.ts';
import { tryoutWorker } from '../sound/workers/workers.ts';
import { Button } from '../ui/button.tsx';
import { notifyFailure } from '../ui/notify.tsx';
import { saveFile } from '../ui/save-file.ts';
import { Select } from '../ui/select.tsx';
import { bytesOfSource, type CardToTry, sourceOf } from './card.ts';
import { Listening } from './listening.tsx';
import { notifyWithUndo } from './notify-undo.ts';
import type { Performer } from './performer.ts';

interface Props {
  /** What the device has made of the card: another time it is another one. */
  readonly seen: DeviceView;
  readonly target: Target;
  /** Files of the card. */
  readonly paths: readonly string[];
  readonly job: CardToTry['job'];
  readonly performer: Performer;
}

/** A source from the shelf, for one of the files. */
interface PickedSource {
  readonly path: string;
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** What was answered of which file. */
interface SymptomAnswer {
  readonly seen: DeviceView;
  readonly path: string;
  readonly symptom: SymptomId;
  readonly answer?: ShownAnswer;
  readonly problem?: string;
}

/** What one hears or sees, and what may be behind it: each cause tried on these very bytes. */
export function Symptoms({ seen, target, paths, job, performer }: Props) {
  const lists = new Set(target.lists.map(({ path }) => path));
  const sounds = paths.filter((path) => !lists.has(path));
  const [path, setPath] = useState<string | null>(null);
  const [asked, setAsked] = useState<Pick<SymptomAnswer, 'path' | 'symptom'> | null>(null);
  const [known, setKnown] = useState<SymptomAnswer | null>(null);
  const [picked, setPicked] = useState<PickedSource | null>(null);
  const [note, setNote] = useState('');
  const playing = useStore(performer.store, (state) => state.playing);
  // What one asks about is what one has just heard.
  useEffect(() => {
    if (playing !== null) setPath(playing);
  }, [playing]);
  const chosen = path !== null && sounds.includes(path) ? path : (sounds[0] ?? null);
  const symptom = asked?.path === chosen ? asked.symptom : null;
  // What was asked of another file, or before the device was restarted, is no answer.
  const isAnswered = known?.seen === seen && known.path === chosen && known.symptom === symptom;
  const sourceFor = async (file: string, from: PickedSource | null) => {
    if (from?.path === file) return from.bytes;
    return job ? sourceOf(job.id, job.clips.get(file)) : null;
  };
  const pick = async ([source]: readonly ShelfView[]) => {
    if (!source || chosen === null) return;
    const bytes = await bytesOfSource(source);
    if (!bytes) return setNote(`${source.name} is too large to be listened to here; use ./tambur explain --source.`);
    const taken = { path: chosen, name: source.name, bytes };
    setPicked(taken);
    setNote('');
    await ask(chosen, symptom, taken);
  };
  const ask = async (file: string | null, wanted: SymptomId | null, from = picked) => {
    if (file === null || wanted === null) return;
    setAsked({ path: file, symptom: wanted });
    const of = { seen, path: file, symptom: wanted };
    try {
      const found = await tryoutWorker.run((remote) => remote.explain(file, wanted));
      // What the bytes alone cannot tell, the source may.
      const isOpen = found.causes.length === 0 && (wanted === 'too-slow' || wanted === 'too-fast');
      const source = isOpen ? await sourceFor(file, from) : null;
      const answer = source ? await tryoutWorker.run((remote) => remote.explain(file, wanted, source)) : found;
      setKnown({ ...of, answer });
    } catch (error) {
      setKnown({ ...of, problem: messageOf(error) });
    }
  };
  if (chosen === null) return null;
  return (
    <section aria-label="What do you hear or see?" className="border-t-2 border-ink pt-3">
      <h2 className="text-lg font-semibold">What do you hear or see at the device?</h2>
      <div className="mt-3 max-w-96">
        <Select
          label="File"
          value={chosen}
          onChange={(next) => {
            setPath(next);
            void ask(next, symptom);
          }}
          options={sounds.map((one) => ({ value: one, label: one }))}
        />
      </div>
      <SourceLine
        words={
          note ||
          (picked?.path === chosen
            ? `It is held against ${picked.name}.`
            : job
              ? 'It is held against what it was made of.'
              : 'With its source at hand, even bare samples tell the rate that they were made for.')
        }
        onPick={(sources) => void pick(sources).catch(notifyFailure)}
      />
      {(['seen', 'heard'] as const).map((kind) => (
        <div key={kind} className="mt-3">
          <p className="label">{kind}</p>
          <ul className="mt-1 flex flex-wrap gap-1.5">
            {symptoms
              .filter((one) => one.kind === kind)
              .map(({ id, title }) => (
                <li key={id}>
                  <Button
                    kind="bare"
                    aria-pressed={symptom === id}
                    className={`border px-2.5 py-1 ${symptom === id ? 'border-pine bg-pine-tint font-semibold' : 'border-rule hover:border-ink'}`}
                    onClick={() => void ask(chosen, id)}
                  >
                    {title}
                  </Button>
                </li>
              ))}
          </ul>
        </div>
      ))}
      {isAnswered && known.problem !== undefined && (
        <p role="alert" className="mt-3 text-brick">
          {known.problem}
        </p>
      )}
      {isAnswered && known.answer && (
        <Answer
          // For another file or symptom nothing is heard or taken yet.
          key={`${known.path} ${known.symptom}`}
          answer={known.answer}
          path={known.path}
          symptom={known.symptom}
          job={job}
          onHear={() => performer.stop()}
        />
      )}
      <Listening key={chosen} path={chosen} sourceOf={(file) => sourceFor(file, picked)} />
    </section>
  );
}

/** What a file is held against, and the way to something else. */
function SourceLine({ words, onPick }: { words: string; onPick: (sources: readonly ShelfView[]) => void }) {
  const [isPicking, setPicking] = useState(false);
  return (
    <p className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-sm text-graphite">
      {words}
      <Button kind="quiet" onClick={() => setPicking(true)}>
        From the shelf …
      </Button>
      {isPicking && <PickDialog isOne onClose={() => setPicking(false)} onPick={onPick} />}
    </p>
  );
}

/** What an answer is about, and what it may do. */
interface Of {
  readonly path: string;
  readonly symptom: SymptomId;
  readonly job: CardToTry['job'];
  readonly onHear: () => void;
}

function Answer({ answer, ...of }: Of & { answer: ShownAnswer }) {
  return (
    <div className="mt-4" aria-live="polite">
      {answer.answer && <p className="border-l-4 border-pine bg-pine-tint px-3 py-2">{answer.answer}</p>}
      <ol className="grid gap-4">
        {answer.causes.map((cause) => (
          <CauseRow key={cause.id} cause={cause} {...of} />
        ))}
      </ol>
      {answer.atTheDevice.length > 0 && (
        <ul className="mt-3 list-disc pl-5 text-sm text-graphite">
          {answer.atTheDevice.map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ul>
      )}
      {answer.unproved.length > 0 && <UnprovedList unproved={answer.unproved} {...of} />}
    </div>
  );
}

/** What leaves no trace in the bytes: each with a small file that one carries to the device. */
function UnprovedList({ unproved, path, symptom }: Of & { unproved: ShownAnswer['unproved'] }) {
  const save = async (fileName: string) => {
    try {
      const file = await tryoutWorker.run((remote) => remote.fileFor(path, symptom, fileName));
      saveFile(fileName, file.type, file);
    } catch (error) {
      void notifyFailure(error);
    }
  };
  return (
    <section aria-label="What the bytes cannot prove" className="mt-5 border-t border-hairline pt-2">
      <h3 className="font-semibold">What the bytes cannot prove</h3>
      <p className="text-sm text-graphite">
        The device may be other than its sheet says; the most frequent first. Carry these small files to it, the same
        sound in each: the one that sounds right tells which it is.
      </p>
      <ul className="mt-2 grid gap-2">
        {unproved.map(({ title, fileName, mend }) => (
          <li key={fileName} className="grid gap-x-4 gap-y-1 sm:grid-cols-[minmax(0,1fr)_auto] sm:items-center">
            <div>
              <p>{title}</p>
              <p className="text-sm text-graphite">If so: {mend}.</p>
            </div>
            <Button className="justify-self-start" onClick={() => void save(fileName)}>
              <Download className="size-4" aria-hidden /> {fileName}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function CauseRow({ cause, path, symptom, job, onHear }: Of & { cause: ShownCause }) {
  const [heard, setHeard] = useState<Pcm | null>(null);
  const { playing, toggle } = usePcmPlayer(heard);
  const hear = async () => {
    onHear();
    if (heard) return toggle();
    try {
      setHeard(await tryoutWorker.run((remote) => remote.hear(path, symptom, cause.id)));
    } catch (error) {
      void notifyFailure(error);
    }
  };
  // It plays as soon as it is there.
  useEffect(() => {
    if (heard) toggle();
  }, [heard, toggle]);
  return (
    <li className="border-t border-hairline pt-2">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h3 className="font-semibold">{cause.title}</h3>
        <span className="figure text-sm text-graphite">{Math.round(100 * cause.strength)} %</span>
      </div>
      <div aria-hidden className="mt-1 h-1 max-w-60 bg-hairline">
        <div className="h-full bg-pine" style={{ width: `${100 * cause.strength}%` }} />
      </div>
      <p className="mt-1.5">{cause.seen}</p>
      <p className="text-sm text-graphite">{cause.tellApart}</p>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        {cause.canBeHeard && (
          <Button onClick={() => void hear()}>
            <Ear className="size-4" aria-hidden /> {playing ? 'Stop' : 'Does it sound like this?'}
          </Button>
        )}
        <TakeMend cause={cause} path={path} job={job} />
      </div>
    </li>
  );
}

/** What to do about a cause: in the job with one click, otherwise in words. */
function TakeMend({ cause: { mend }, path, job }: { cause: ShownCause; path: string; job: CardToTry['job'] }) {
  const navigate = useNavigate();
  const [isTaken, setTaken] = useState(false);
  const clip = job?.clips.get(path);
  const canTake = job !== null && clip !== undefined && mend.where === 'job' && mend.station !== null;
  const take = async () => {
    if (!job || clip === undefined) return;
    try {
      await takeMend(job.id, clip, mend);
      setTaken(true);
      notifyWithUndo('The job was changed.', () => setTaken(false), job.id);
    } catch (error) {
      void notifyFailure(error);
    }
  };
  const buildAgain = async () => {
    if (!job) return;
    try {
      const { id } = await startDelivery(job.id);
      void navigate(`/try/${id}`);
    } catch (error) {
      void notifyFailure(error);
    }
  };
  const words = `${mend.words.slice(0, 1).toUpperCase()}${mend.words.slice(1)}`;
  return (
    <>
      {canTake && !isTaken ? (
        <Button kind="way" onClick={() => void take()}>
          {words}
        </Button>
      ) : (
        <p className="text-sm">
          <span className="font-semibold">{isTaken ? 'Done in the job:' : 'Mend:'}</span> {mend.words}
          {mend.where === 'device' && ' (at the device)'}
        </p>
      )}
      {isTaken && (
        <Button kind="main" onClick={() => void buildAgain()}>
          Build and try again
        </Button>
      )}
    </>
  );
}
