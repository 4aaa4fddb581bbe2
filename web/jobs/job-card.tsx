import { formatBytes } from '@tambur/core';
import type { DeliveryState, JobSummary } from '@tambur/server';
import { Download, Trash2 } from 'lucide-react';
import { Link } from 'react-router';
import { Button } from '../ui/button.tsx';

const states: Record<DeliveryState, string> = {
  building: 'building …',
  done: 'built',
  failed: 'build failed',
  cancelled: 'build cancelled',
};

/** A job as a card: its device, its clips, what has been built. */
export function JobCard({ job, device, onDelete }: { job: JobSummary; device: string; onDelete: () => void }) {
  const { delivery } = job;
  const more = job.clipCount - job.clipNames.length;
  return (
    <li className="relative flex flex-col [contain-intrinsic-height:auto_9rem] [content-visibility:auto] border border-hairline bg-sheet focus-within:border-pine hover:border-rule">
      <div className="flex-1 px-4 pt-3 pb-4">
        <p className="label">{device}</p>
        <h3 className="mt-0.5 text-xl font-semibold tracking-tight">
          <Link to={`/jobs/${job.id}`} className="outline-none after:absolute after:inset-0">
            {job.title}
          </Link>
        </h3>
        <p className="mt-2 line-clamp-2 text-sm text-graphite">
          {job.clipCount === 0 ? 'No clips yet.' : job.clipNames.join(', ') + (more > 0 ? ` and ${more} more` : '')}
        </p>
      </div>
      <div className="flex items-center gap-3 border-t border-hairline px-4 py-1.5 text-sm">
        <span>
          <span className="figure">{job.clipCount}</span> {job.clipCount === 1 ? 'clip' : 'clips'}
        </span>
        <span className={delivery?.state === 'failed' ? 'text-brick' : 'text-graphite'}>
          {delivery ? states[delivery.state] : 'not built'}
          {delivery?.state === 'done' && (
            <>
              , <span className="figure">{formatBytes(delivery.bytes)}</span>
            </>
          )}
        </span>
        <a
          href={`/api/jobs/${job.id}/export`}
          download
          aria-label={`Export the job ${job.title}`}
          title="Export: the job with its sources and deliveries, as one file"
          className="relative z-10 ml-auto px-2 py-1.5 text-graphite hover:text-ink"
        >
          <Download className="size-4" aria-hidden />
        </a>
        <Button kind="quiet" className="relative z-10" aria-label={`Delete the job ${job.title}`} onClick={onDelete}>
          <Trash2 className="size-4" aria-hidden />
        </Button>
      </div>
    </li>
  );
}
