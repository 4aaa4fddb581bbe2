import {
  type ClipSettings,
  evenOut,
  formatDb,
  GOAL_RANGE,
  type MeasuredClip,
  messageOf,
  settingsOf,
  type Target,
  toDb,
} from '@tambur/core';
import { useEffect, useMemo, useState } from 'react';
import { type JobStore, sourceIn } from '../job/job-store.ts';
import { measureWorker } from '../sound/workers/workers.ts';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Modal } from '../ui/modal.tsx';
import { notify, notifyFailure } from '../ui/notify.tsx';
import { NumberField } from '../ui/number-field.tsx';

interface Props {
  readonly store: JobStore;
  readonly target: Target;
  readonly undo: () => void;
  readonly onClose: () => void;
}

type Measurement = MeasuredClip | { readonly refused: string };

/** Measures every clip before its level, one after the other. */
function useMeasured(store: JobStore, target: Target): readonly Measurement[] {
  const [measured, setMeasured] = useState<readonly Measurement[]>([]);
  useEffect(() => {
    let isStale = false;
    const { job, sources } = store.getState();
    void (async () => {
      const found: Measurement[] = [];
      for (const clip of job.clips) {
        const source = sourceIn({ sources }, clip);
        const settings = settingsOf(clip, job);
        found.push(
          source
            ? await measureWorker.run((remote) => remote.measure(source, { facts: source.facts, settings, target }))
            : { refused: 'Its source no longer exists.' },
        );
        if (isStale) return;
        setMeasured([...found]);
      }
    })().catch((error: unknown) => {
      if (!isStale) notifyFailure(`The clips could not be measured: ${messageOf(error)}`);
    });
    return () => {
      isStale = true;
    };
  }, [store, target]);
  return measured;
}

const SILENT: MeasuredClip = { loudness: null, truePeak: 0 };

/** The level's wish without its goal, with the common loudness. */
function levelled(level: ClipSettings['level'], loudness: number, ceilingDb: number): ClipSettings['level'] {
  const { gainDb: _, peakDb: _p, truePeakDb: _t, ...rest } = level === 'automatic' ? {} : level;
  return { ...rest, loudness: Math.round(loudness * 100) / 100, ceilingDb };
}

/** Gives all clips of the job one loudness, as one step that can be undone. */
export function EvenOutDialog({ store, target, undo, onClose }: Props) {
  const [job] = useState(() => store.getState().job);
  const { clips } = job;
  const measured = useMeasured(store, target);
  const [wished, setWished] = useState<number | null>(null);
  const [ceilingDb, setCeilingDb] = useState(-1);
  const isReady = measured.length === clips.length;
  const evened = useMemo(
    () =>
      evenOut(
        measured.map((entry) => ('refused' in entry ? SILENT : entry)),
        ceilingDb,
        wished,
      ),
    [measured, ceilingDb, wished],
  );
  const { loudness, bound } = evened;
  const apply = () => {
    if (loudness === null) return;
    const changes = clips.flatMap((clip, index) => {
      const entry = measured[index];
      return entry && !('refused' in entry) && entry.loudness !== null
        ? [[clip.id, { level: levelled(settingsOf(clip, job).level, loudness, ceilingDb) }] as const]
        : [];
    });
    store.getState().changeMany(new Map(changes));
    notify(`${changes.length} clips at ${formatDb(loudness, 'LUFS')}`, {
      label: 'Undo',
      onClick: undo,
    });
    onClose();
  };
  return (
    <Modal
      title="Even out all clips"
      onClose={onClose}
      wide
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="main" disabled={!isReady || loudness === null} onClick={apply}>
            {isReady ? 'Give all the same loudness' : `Measuring ${measured.length} of ${clips.length} …`}
          </Button>
        </>
      }
    >
      <p className="text-sm text-graphite">All clips get the same loudness, and no true peak exceeds the ceiling.</p>
      <div className="mt-3 flex flex-wrap items-end gap-x-8 gap-y-3">
        <Choice<'loudest' | 'wished'>
          name="Loudness"
          value={wished === null ? 'loudest' : 'wished'}
          onChange={(value) => setWished(value === 'loudest' ? null : Math.round(loudness ?? -16))}
          options={[
            { value: 'loudest', label: 'As loud as all can be' },
            { value: 'wished', label: 'At most' },
          ]}
        />
        {wished !== null && (
          <NumberField
            label="At most"
            unit="LUFS"
            decimals={1}
            value={wished}
            range={GOAL_RANGE}
            onChange={setWished}
          />
        )}
        <NumberField
          label="True peak at most"
          unit="dBTP"
          decimals={1}
          value={ceilingDb}
          range={GOAL_RANGE}
          onChange={setCeilingDb}
        />
      </div>
      <p role="status" className="figure mt-3 text-lg">
        {!isReady ? (
          'measuring …'
        ) : loudness === null ? (
          'All clips are silent.'
        ) : (
          <>
            {formatDb(loudness, 'LUFS')}
            {bound !== null && (
              <span className="ml-3 font-sans text-sm text-graphite">
                {clips[bound]?.name} reaches the ceiling there.
              </span>
            )}
          </>
        )}
      </p>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolling region must be reachable by keyboard */}
      <div tabIndex={0} className="mt-2 max-h-72 overflow-auto">
        <table className="w-full text-sm">
          <thead className="text-left text-graphite">
            <tr>
              <th className="py-1 font-normal">clip</th>
              <th className="py-1 text-right font-normal">loudness</th>
              <th className="py-1 text-right font-normal">true peak</th>
              <th className="py-1 text-right font-normal">gain</th>
            </tr>
          </thead>
          <tbody className="divide-y divide-hairline">
            {clips.map(({ id, name }, index) => {
              const entry = measured[index];
              return (
                <tr key={id}>
                  <td className="max-w-40 truncate py-1 pr-3">{name}</td>
                  {!entry || 'refused' in entry ? (
                    <td colSpan={3} className="py-1 text-right text-graphite">
                      {entry ? entry.refused : '…'}
                    </td>
                  ) : (
                    <>
                      <td className="figure py-1 text-right">
                        {entry.loudness === null ? 'silence' : formatDb(entry.loudness, 'LUFS')}
                      </td>
                      <td className="figure py-1 text-right">{formatDb(toDb(entry.truePeak), 'dBTP')}</td>
                      <td className="figure py-1 text-right">
                        {isReady ? formatDb(evened.gains[index] ?? 0, 'dB', true) : '…'}
                      </td>
                    </>
                  )}
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </Modal>
  );
}
