import { formatCount, type LeftOut, messageOf, type Target } from '@tambur/core';
import type { SheetView } from '@tambur/server';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { copyForDevice, keys, startDelivery, useTargets } from '../api/queries.ts';
import { refresh } from '../api/refresh.ts';
import { Button } from '../ui/button.tsx';
import { Modal } from '../ui/modal.tsx';
import { Loading } from '../ui/states.tsx';

interface Props {
  readonly jobId: string;
  /** Of this job. */
  readonly sheet: Target;
  readonly saveNow: () => Promise<boolean>;
  readonly onClose: () => void;
}

/** A device that was asked for: its sheet, in one of its variants. */
interface Device {
  readonly key: string;
  readonly sheet: string;
  readonly variant: string | null;
  readonly name: string;
}

const devicesOf = (sheets: readonly SheetView[]): readonly Device[] =>
  sheets.flatMap(({ id, name, variants }) => [
    { key: id, sheet: id, variant: null, name },
    ...variants.map((variant) => ({
      key: `${id} ${variant.id}`,
      sheet: id,
      variant: variant.id,
      name: `${name}, ${variant.name}`,
    })),
  ]);

interface OtherJob {
  readonly device: Device;
  readonly jobId: string;
  readonly left: readonly LeftOut[];
  /** Null if nothing is built. */
  readonly deliveryId: string | null;
}

/** The same clips for other devices, each as a job of its own, and all of them built in one go where that is wanted. */
export function OtherDevices({ jobId, sheet, saveNow, onClose }: Props) {
  const targets = useTargets();
  const client = useQueryClient();
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const [isBuilt, setBuilt] = useState(false);
  const [made, setMade] = useState<readonly OtherJob[] | null>(null);
  const [problem, setProblem] = useState('');
  const [isBusy, setBusy] = useState(false);
  const devices = devicesOf(targets.data ?? []);
  const toggle = (key: string) =>
    setPicked((before) => new Set(before.has(key) ? [...before].filter((other) => other !== key) : [...before, key]));
  const make = async () => {
    setBusy(true);
    setProblem('');
    const done: OtherJob[] = [];
    try {
      if (!(await saveNow())) throw new Error('The last changes could not be saved, so nothing was made.');
      for (const device of devices.filter(({ key }) => picked.has(key))) {
        const { id, left } = await copyForDevice(jobId, device.sheet, device.variant);
        const copy = { device, jobId: id, left };
        // It is there, whether or not its build can be started.
        done.push({ ...copy, deliveryId: null });
        if (isBuilt) done[done.length - 1] = { ...copy, deliveryId: (await startDelivery(id)).id };
      }
      if (isBuilt) await startDelivery(jobId);
    } catch (error) {
      setProblem(messageOf(error));
    } finally {
      setBusy(false);
      if (done.length) setMade(done);
      void refresh(client, keys.jobs);
    }
  };
  return (
    <Modal
      title="For another device"
      onClose={onClose}
      actions={
        made ? (
          <Button kind="main" onClick={onClose}>
            Close
          </Button>
        ) : (
          <>
            <label className="mr-auto flex items-center gap-2 text-sm">
              <input
                type="checkbox"
                className="accent-pine"
                checked={isBuilt}
                onChange={({ target }) => setBuilt(target.checked)}
              />
              build all of them, and this one
            </label>
            <Button onClick={onClose}>Cancel</Button>
            <Button kind="main" disabled={picked.size === 0 || isBusy} onClick={() => void make()}>
              Make {formatCount(picked.size)} {picked.size === 1 ? 'job' : 'jobs'}
            </Button>
          </>
        )
      }
    >
      {problem && (
        <p role="alert" className="mb-3 text-brick">
          {problem}
        </p>
      )}
      {made ? (
        <ul className="grid gap-3">
          {made.map(({ device, jobId: id, left, deliveryId }) => (
            <li key={id}>
              <Link to={`/jobs/${id}`} className="font-semibold underline underline-offset-2">
                {device.name}
              </Link>
              {deliveryId && (
                <Link to={`/deliveries/${deliveryId}`} className="ml-3 underline underline-offset-2">
                  its delivery
                </Link>
              )}
              <p className="text-sm text-graphite">
                {left.length === 0
                  ? 'All that was set by hand went along.'
                  : `Left out, as it makes no sense there: ${left.map(({ clip, what }) => `${clip ?? 'all clips'}: ${what}`).join('; ')}.`}
              </p>
            </li>
          ))}
        </ul>
      ) : targets.data ? (
        <>
          <p className="text-sm text-graphite">
            Each becomes a job of its own with the same sources. What is set by hand goes along where it makes sense;
            what does not is named.
          </p>
          <ul className="mt-3 max-h-80 overflow-y-auto border-t border-hairline">
            {devices.map(({ key, name }) => (
              <li key={key} className="border-b border-hairline">
                <label className={`flex items-center gap-2 py-1 ${key.includes(' ') ? 'pl-6' : ''}`}>
                  <input
                    type="checkbox"
                    className="accent-pine"
                    checked={picked.has(key)}
                    onChange={() => toggle(key)}
                  />
                  {name}
                  {name === sheet.name && <span className="text-sm text-graphite">this one</span>}
                </label>
              </li>
            ))}
          </ul>
        </>
      ) : (
        <Loading what="the sheets" />
      )}
    </Modal>
  );
}
