import {
  budgetWays,
  formatCount,
  InputError,
  settingsOf,
  sheetFor,
  stationIds,
  type Target,
  type Values,
  type WayForMany,
  waysForMany,
  withVariant,
} from '@tambur/core';
import type { JobView, SheetView, SourceView } from '@tambur/server';
import { useEffect, useMemo, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useLocation, useMatch, useParams } from 'react-router';
import { useStore } from 'zustand';
import { useJob, useTargets } from '../api/queries.ts';
import { Imports } from '../imports/import-store.ts';
import { LeavingGuard } from '../imports/leaving-guard.tsx';
import { DropOrder } from '../job/drop-order.ts';
import { createJobStore, type JobStore, selectedClip, sourceIn } from '../job/job-store.ts';
import { takeFiles } from '../job/pending-files.ts';
import { settleSet } from '../job/set.ts';
import { sheetOfJob } from '../job/sheets.ts';
import { type Saving, useJobSync } from '../job/use-job-sync.ts';
import { FindPartsDialog } from '../parts/find-parts-dialog.tsx';
import { RecordDialog } from '../record/record-dialog.tsx';
import { SetView } from '../set/set-view.tsx';
import { PickDialog } from '../shelf/pick-dialog.tsx';
import { SpeakDialog } from '../speech/speak-dialog.tsx';
import { type Act, useAct, useActs } from '../ui/acts.ts';
import { Button } from '../ui/button.tsx';
import { notify } from '../ui/notify.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { BuildBar } from './build-bar.tsx';
import { ClipBench } from './clip-bench.tsx';
import { ClipList } from './clip-list.tsx';
import { EditionOffer } from './edition-offer.tsx';
import { JobHeader } from './job-header.tsx';
import { KEYS } from './keys.ts';
import { looks } from './looks.ts';
import { type Pane, shownOnly } from './pane.ts';
import { PaneBar } from './pane-bar.tsx';

/** The view in which a job's clips are worked on. */
export function BenchPage() {
  const { jobId = '' } = useParams();
  const job = useJob(jobId);
  const targets = useTargets();
  const failed = job.error ?? targets.error;
  if (failed) return <Failed error={failed} retry={() => void job.refetch()} />;
  // What an earlier visit left in the cache is older than what that visit saved.
  if (!job.data || !job.isFetchedAfterMount || !targets.data) return <Loading what="the job" />;
  return <OpenJob key={job.data.id} view={job.data} sheets={targets.data} />;
}

/** Holds the job while the bench is open. */
function OpenJob({ view, sheets }: { view: JobView; sheets: readonly SheetView[] }) {
  const [store] = useState(() => createJobStore(view));
  const saving = useJobSync(view, store);
  const job = useStore(store, (state) => state.job);
  const { sheet, variant, values } = job;
  const whole = sheetOfJob(sheets, job);
  if (!whole) {
    const what = variant ? `${sheet}, or its variant ${variant},` : sheet;
    return <Failed error={new Error(`The target sheet ${what} no longer exists; make it again under Targets.`)} />;
  }
  const edition = withVariant(whole, variant);
  const misfit = misfitOf(edition, values);
  if (misfit) return <Failed error={misfit} />;
  return <Bench jobId={view.id} store={store} saving={saving} edition={edition} values={values} sheet={whole} />;
}

/** Why a sheet cannot be filled with the values of a job, as after it has been changed; null if it can. */
function misfitOf(edition: Target, values: Values): InputError | null {
  try {
    sheetFor(edition, null, values);
    return null;
  } catch (error) {
    if (error instanceof InputError) return error;
    throw error;
  }
}

interface BenchProps {
  readonly jobId: string;
  readonly store: JobStore;
  readonly saving: Saving;
  /** The sheet in the job's variant, with its blanks. */
  readonly edition: Target;
  readonly values: Values;
  /** With all its variants. */
  readonly sheet: Target;
}

function Bench({ jobId, store, saving, edition: current, values, sheet: whole }: BenchProps) {
  // Loading the sheets again must not settle everything again.
  const sheet = JSON.stringify(current);
  const edition = useMemo<Target>(() => JSON.parse(sheet), [sheet]);
  const target = useMemo(() => sheetFor(edition, null, values), [edition, values]);
  // In a small window files are seen coming in, and then the first of them on the bench.
  const [pane, setPane] = useState<Pane>(() => (store.getState().job.clips.length > 0 ? 'bench' : 'clips'));
  const [imports] = useState(() => {
    const order = new DropOrder(store);
    return new Imports((dropped, place) => {
      order.add(dropped, place);
      if (place.isFirst) setPane('bench');
    });
  });
  const { undo, redo, saveNow } = saving;
  const job = useStore(store, (state) => state.job);
  const { clips } = job;
  const sources = useStore(store, (state) => state.sources);
  const clip = useStore(store, selectedClip);
  const source = clip && sourceIn({ sources }, clip);
  const set = useMemo(() => settleSet(job, sources, target), [job, sources, target]);
  const settled = clip && set.settled.get(clip.id);

  const isOver = set.mostBytes !== null && set.soundBytes > set.mostBytes;
  const ways = useMemo(() => {
    if (!isOver) return [];
    const known = job.clips.flatMap((entry) => {
      const facts = sourceIn({ sources }, entry)?.facts;
      return facts ? [{ id: entry.id, facts, settings: settingsOf(entry, job) }] : [];
    });
    return budgetWays(known, target).map(({ label, settings }) => ({
      label,
      changes: new Map(known.map(({ id }, i) => [id, settings[i] ?? {}])),
    }));
  }, [isOver, job, sources, target]);
  const waysForTroubled = useMemo(() => {
    const chains = [...set.settled].flatMap(([id, entry]) => ('chain' in entry ? [[id, entry.chain] as const] : []));
    return waysForMany(new Map(chains));
  }, [set]);
  const takeWay = ({ label, changes }: WayForMany) => {
    store.getState().changeMany(changes);
    notify(label, { label: 'Undo', onClick: undo });
  };

  useEffect(() => imports.add(takeFiles(jobId)), [imports, jobId]);

  const isTable = useMatch('/jobs/:jobId/set') !== null;
  // A link may say which clip is meant, and at which station.
  const { state: meant } = useLocation();
  useEffect(() => {
    if (typeof meant?.clip === 'string') store.getState().select(meant.clip);
    const opened = stationIds.find((id) => id === meant?.station);
    if (opened) looks.setState({ opened });
  }, [meant, store]);

  useAct(KEYS.undo, () => undo(), { preventDefault: true });
  useAct(KEYS.redo, () => redo(), { preventDefault: true });

  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => {
      imports.add(files);
      setPane('clips');
    },
    noClick: true,
    noKeyboard: true,
  });

  const [dock, setDock] = useState<HTMLElement | null>(null);
  const [way, setWay] = useState<'shelf' | 'record' | 'speak' | 'parts' | null>(null);
  const waysIn: readonly Act[] = [
    { label: 'Files …', go: open },
    { label: 'From the shelf …', go: () => setWay('shelf') },
    { label: 'Record …', go: () => setWay('record') },
    { label: 'Speak prompts …', go: () => setWay('speak') },
    ...(source ? [{ label: `Parts of ${source.name} …`, go: () => setWay('parts') }] : []),
  ];
  useActs(waysIn.map((act) => ({ ...act, label: `Add audio: ${act.label.replace(' …', '')}` })));
  useActs(clips.map(({ id, name }, i) => ({ label: `Clip ${i + 1}: ${name}`, go: () => store.getState().select(id) })));
  const leaveWay = () => setWay(null);
  const addSources = (added: readonly SourceView[]) =>
    store.getState().addClips(added.map((entry) => ({ source: entry, fileName: entry.name })));

  const remove = (ids: readonly string[]) => {
    const [only] = clips.filter((entry) => ids.includes(entry.id));
    store.getState().removeClips(ids);
    const what = ids.length === 1 ? only?.name : `${formatCount(ids.length)} clips`;
    notify(`${what} removed`, { label: 'Undo', onClick: undo });
  };

  return (
    <div {...getRootProps({ className: 'absolute inset-0 flex flex-col' })}>
      <title>{`${job.title} – Tambur`}</title>
      <input {...getInputProps({ 'aria-label': 'Audio files' })} />
      {isDragActive && (
        <div className="absolute inset-0 z-40 flex items-center justify-center border-4 border-pine bg-paper/85 text-xl font-semibold">
          Drop to add clips
        </div>
      )}
      <LeavingGuard imports={imports} text="If you leave now, they will not be added to this job." />
      {way === 'shelf' && <PickDialog onClose={leaveWay} onPick={addSources} />}
      {way === 'record' && <RecordDialog onClose={leaveWay} onKeep={(file) => imports.add([file])} />}
      {way === 'speak' && <SpeakDialog into={job.title} onClose={leaveWay} onKeep={addSources} />}
      {way === 'parts' && source && (
        <FindPartsDialog
          source={source}
          onClose={leaveWay}
          onTake={(clips) =>
            store
              .getState()
              .addClips(clips.map(({ name, cut }) => ({ source, fileName: name, ...(cut ? { cut } : {}) })))
          }
        />
      )}
      <JobHeader jobId={jobId} target={target} sheet={whole} store={store} saving={saving} />
      <EditionOffer store={store} edition={edition} />
      {isTable ? (
        <SetView jobId={jobId} store={store} set={set} target={target} />
      ) : (
        <>
          <div className="grid min-h-0 flex-1 grid-cols-1 grid-rows-[minmax(0,1fr)] lg:grid-cols-[13rem_minmax(0,1fr)_15rem] xl:grid-cols-[16rem_minmax(0,1fr)_18.5rem]">
            <aside
              className={`flex min-h-0 flex-col border-hairline lg:border-r ${shownOnly('clips', pane)}`}
              aria-label="Clips of the job"
            >
              <ClipList
                store={store}
                clips={clips}
                set={set}
                target={target}
                selectedId={clip?.id ?? null}
                imports={imports}
                waysIn={waysIn}
                onRemove={remove}
                onPick={() => setPane('bench')}
              />
              <BuildBar
                jobId={jobId}
                set={set}
                ways={ways}
                waysForTroubled={waysForTroubled}
                onWay={takeWay}
                saveNow={saveNow}
              />
            </aside>
            {clip && source && settled ? (
              <ClipBench
                key={clip.id}
                store={store}
                saving={saving}
                clip={clip}
                source={source}
                edition={edition}
                target={target}
                settled={settled}
                pane={pane}
                dock={dock}
                onSheet={() => setPane('sheet')}
              />
            ) : (
              <EmptyBench onOpen={open} className={pane === 'clips' ? 'max-lg:hidden' : ''} />
            )}
          </div>
          <div ref={setDock} className="border-t border-hairline px-4 pb-2 empty:hidden lg:hidden" />
          <PaneBar shown={pane} onShow={setPane} clips={clips.length} />
        </>
      )}
    </div>
  );
}

function EmptyBench({ onOpen, className }: { onOpen: () => void; className: string }) {
  return (
    <div
      className={`m-4 flex min-h-64 flex-col items-center justify-center gap-3 border-2 border-dashed border-rule bg-sheet p-6 text-center sm:m-6 lg:col-span-2 ${className}`}
    >
      <p className="text-lg font-semibold">Drop audio here</p>
      <p className="max-w-prose text-sm text-graphite">Each file becomes a clip, fitted to the target sheet at once.</p>
      <Button kind="main" onClick={onOpen}>
        Choose files
      </Button>
    </div>
  );
}
