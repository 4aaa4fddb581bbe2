import { formatBytes, formatCount } from '@tambur/core';
import type { DeliveryView } from '@tambur/server';
import { Play } from 'lucide-react';
import { useState } from 'react';
import { deliveryHrefs } from '../api/delivery-files.ts';
import { useDeliveries } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { formatMoment } from '../ui/dates.ts';
import { Fold } from '../ui/fold.tsx';
import { Select } from '../ui/select.tsx';
import { compareDeliveries } from './comparison.ts';
import type { FilePlayer } from './file-player.ts';

const NONE = '';
const LOOKS = {
  added: 'text-pine',
  gone: 'text-brick line-through decoration-brick/50',
  changed: 'text-saffron',
  same: 'text-graphite',
} as const;

const signed = (bytes: number) => `${bytes < 0 ? '\u2212' : '+'}${formatBytes(Math.abs(bytes))}`;

interface Props {
  readonly delivery: DeliveryView;
  readonly player: FilePlayer;
}

/** What is different from an earlier delivery of the job: files, bytes, facts, and the sound of both. */
export function Compare({ delivery, player }: Props) {
  const deliveries = useDeliveries(delivery.jobId);
  const [other, setOther] = useState(NONE);
  const others = (deliveries.data ?? []).filter(({ id, state }) => id !== delivery.id && state === 'done');
  if (others.length === 0) return null;
  const was = others.find(({ id }) => id === other);
  const compared = was ? compareDeliveries(delivery.artifacts, was.artifacts) : [];
  const different = compared.filter(({ what }) => what !== 'same');
  const count = (what: keyof typeof LOOKS) => compared.filter((file) => file.what === what).length;
  return (
    <section className="mt-6" aria-label="Compared with another delivery">
      <Select
        label="Compare with"
        value={other}
        onChange={setOther}
        options={[
          { value: NONE, label: 'no other delivery' },
          ...others.map(({ id, createdAt }) => ({ value: id, label: `that of ${formatMoment(createdAt)}` })),
        ]}
      />
      {was && (
        <>
          <p role="status" className="mt-2 text-sm">
            {formatCount(count('added'))} added, {formatCount(count('gone'))} gone, {formatCount(count('changed'))}{' '}
            changed, {formatCount(count('same'))} the same, byte for byte.
          </p>
          {different.length > 0 && (
            <ul className="mt-2 border-t border-hairline text-sm">
              {different.map(({ path, what, bytes, facts }) => (
                <li key={path} className="border-b border-hairline py-1">
                  <div className="flex flex-wrap items-baseline gap-x-4">
                    <span className={`figure min-w-40 ${LOOKS[what]}`}>{path}</span>
                    <span className={LOOKS[what].split(' ')[0]}>{what}</span>
                    <span className="figure text-graphite">{bytes === 0 ? 'as large' : signed(bytes)}</span>
                    {what !== 'added' && was.artifacts.some((file) => file.path === path && file.role === 'sound') && (
                      <PlayOther {...{ was, path, player }} />
                    )}
                  </div>
                  {facts.length > 0 && (
                    <Fold title={facts.map(({ label }) => label).join(', ')}>
                      <dl className="mb-1 grid grid-cols-[auto_auto_auto] justify-start gap-x-4">
                        {facts.map(({ label, was: then, is }) => (
                          <div key={label} className="col-span-3 grid grid-cols-subgrid">
                            <dt className="text-graphite">{label}</dt>
                            <dd className="figure text-graphite">{then}</dd>
                            <dd className="figure">{is}</dd>
                          </div>
                        ))}
                      </dl>
                    </Fold>
                  )}
                </li>
              ))}
            </ul>
          )}
        </>
      )}
    </section>
  );
}

function PlayOther({ was, path, player }: { was: DeliveryView; path: string; player: FilePlayer }) {
  const facts = was.artifacts.find((file) => file.path === path)?.parts[0]?.facts;
  if (!facts) return null;
  return (
    <Button
      kind="quiet"
      aria-label={`Play ${path} as it was`}
      onClick={() => void player.toggle(`${was.id} ${path}`, facts, deliveryHrefs.file(was.id, path))}
    >
      <Play className="size-3.5" aria-hidden /> as it was
    </Button>
  );
}
