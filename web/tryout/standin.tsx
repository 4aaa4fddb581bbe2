import { type Circumstances, faces, messageOf, type Target, USUAL_FACE, usualIn } from '@tambur/core';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { putAt } from '../job/job-change.ts';
import type { DeviceView } from '../sound/workers/tryout-worker.ts';
import { tryoutWorker } from '../sound/workers/workers.ts';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { notifyFailure } from '../ui/notify.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import type { CardToTry } from './card.ts';
import { drawings, USUAL_DRAWING } from './faces/list.ts';
import { Log } from './log.tsx';
import { NotKnown } from './not-known.tsx';
import { notifyWithUndo } from './notify-undo.ts';
import { Performer } from './performer.ts';
import { filesAtPlaces, languagesOf, placeTitle } from './places.ts';
import type { Side } from './program.ts';
import { Symptoms } from './symptoms.tsx';

interface Props {
  readonly target: Target;
  readonly card: CardToTry;
}

const SIDES: readonly { readonly value: Side; readonly label: string }[] = [
  { value: 'right', label: 'As it should be' },
  { value: 'device', label: 'As this device plays it' },
];

/** A card in a device: what it shows, its face to operate it, what it refuses, what it did, and what may be wrong. */
export function Standin({ target, card }: Props) {
  const [seen, setSeen] = useState<DeviceView | null>(null);
  const [problem, setProblem] = useState<Error | null>(null);
  const [log, setLog] = useState<DeviceView['log']>([]);
  const [unknown, setUnknown] = useState<readonly { readonly path: string; readonly words: string }[]>([]);
  const [performer] = useState(() => new Performer(setLog));
  /** The folder that somebody has made it look in. */
  const [folder, setFolder] = useState<string | null>(null);
  const player = useMemo(
    () => (folder === null ? target.player : { ...target.player, 'looks-in': { path: folder } }),
    [target, folder],
  );
  const [around, setAround] = useState<Partial<Circumstances>>({});
  const [assigned, setAssigned] = useState<ReadonlyMap<number, string | null>>(new Map());
  const playing = useStore(performer.store, (state) => state.playing);
  const side = useStore(performer.store, (state) => state.side);
  const last = useStore(performer.store, (state) => state.last);
  const trouble = useStore(performer.store, (state) => state.problem);
  useEffect(() => () => performer.close(), [performer]);

  const putIn = useCallback(
    (isRestarted: boolean, wanted: () => boolean = () => true) => {
      performer.stop();
      const id = `${target.name} ${card.job?.id ?? ''}`;
      tryoutWorker
        .run((remote) => remote.insert(card.files, { ...target, player }, { id, whole: card.isWhole, isRestarted }))
        .then(
          (found) => {
            if (!wanted()) return;
            setSeen(found);
            setLog(found.log);
            tryoutWorker
              .run((remote) => remote.notKnown())
              .then(
                (said) => wanted() && setUnknown(said),
                (error: unknown) => wanted() && void notifyFailure(error),
              );
          },
          (error: unknown) => wanted() && setProblem(new Error(messageOf(error))),
        );
    },
    [performer, target, player, card],
  );
  useEffect(() => {
    let isWanted = true;
    putIn(false, () => isWanted);
    return () => {
      isWanted = false;
    };
  }, [putIn]);

  const kind = faces.find(({ id }) => id === target.face?.id) ?? USUAL_FACE;
  const Face = drawings[kind.id] ?? USUAL_DRAWING;
  const entries = seen?.shown ?? [];
  const places = useMemo(() => {
    const shown = (seen?.shown ?? []).map(({ path }) => path);
    return filesAtPlaces(target.places?.first ?? 1, shown, card.job?.places, assigned);
  }, [seen, assigned, target, card]);
  const put = (place: number, path: string | null) => {
    const before = assigned;
    setAssigned(new Map(assigned).set(place, path));
    // What is put on a face of a job's own delivery is where the job has it from then on, and all else stays where it is.
    if (!card.job || !target.places) return;
    const { id, clips } = card.job;
    const clipOf = (at: string | null) => (at === null ? null : (clips.get(at) ?? null));
    const all = [...places, [place, path] as const].map(([at, file]) => [at, clipOf(file)] as const);
    putAt(id, new Map(all)).then(
      () =>
        notifyWithUndo(`${placeTitle(target.places, place)} of the job was changed.`, () => setAssigned(before), id),
      (error: unknown) => {
        setAssigned(before);
        void notifyFailure(error);
      },
    );
  };
  const cut = last?.cutAfter ? `Here it ends after ${last.cutAfter} s; the device goes on.` : null;
  if (problem) return <Failed error={problem} />;
  if (!seen) return <Loading what="the device" />;
  const paths = card.files.map(({ path }) => path);
  return (
    <div className="mt-5 grid items-start gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div className="grid min-w-0 gap-5">
        <div>
          <p className="mb-2 text-sm text-graphite">{kind.about}</p>
          {entries.length > 0 ? (
            <Face
              entries={entries}
              options={{ ...usualIn(kind.schema), ...target.face?.options }}
              device={player}
              folders={languagesOf(
                target,
                card.files.map(({ path }) => path),
              )}
              onFolder={setFolder}
              performer={performer}
              playing={playing}
              around={around}
              onAround={setAround}
              places={places}
              labels={target.places?.labels ?? {}}
              onPlace={put}
            />
          ) : (
            <p role="status" className="border-2 border-ink bg-sheet p-4">
              The device shows nothing. Below is why, and what may be behind it.
            </p>
          )}
        </div>
        <section
          aria-label="What is heard"
          className="flex flex-wrap items-end gap-x-6 gap-y-2 border-t border-hairline pt-3"
        >
          <Choice name="Heard" value={side} onChange={(next) => performer.setSide(next)} options={SIDES} />
          <p role="status" className="min-w-48 flex-1 pb-1.5 text-sm text-graphite">
            {trouble ??
              last?.held ??
              cut ??
              (playing ? 'Switching keeps the place.' : 'Press something on the device.')}
          </p>
        </section>
        <Symptoms key={card.id} seen={seen} target={target} paths={paths} job={card.job} performer={performer} />
      </div>
      <aside className="grid min-w-0 gap-5">
        {seen.refused.length > 0 && (
          <section aria-label="Refused">
            <h2 className="label">Refused</h2>
            <ul className="mt-1">
              {seen.refused.map(({ path, word, reason }) => (
                <li key={`${path} ${word} ${reason}`} className="border-b border-hairline py-1.5">
                  <p className="figure truncate font-semibold" title={path}>
                    {path}
                  </p>
                  <p className="text-sm">
                    <span className="text-brick">“{word}”</span> {reason}
                  </p>
                </li>
              ))}
            </ul>
          </section>
        )}
        <NotKnown said={unknown} />
        <Log log={log} />
        {target.player.keeps && (
          <div className={seen.kept.length ? 'border-l-4 border-saffron-mark bg-saffron-tint px-3 py-2' : ''}>
            {seen.kept.length > 0 && (
              <p role="status" className="mb-2">
                It still has <span className="figure">{seen.kept.join(', ')}</span> as it was before.
              </p>
            )}
            <Button onClick={() => putIn(true)}>Restart the device</Button>
            <p className="mt-1 text-sm text-graphite">Until then it keeps what it has in its memory.</p>
          </div>
        )}
      </aside>
    </div>
  );
}
