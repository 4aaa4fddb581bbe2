import { type Finding, formatBytes, formatLength, worstOf } from '@tambur/core';
import type { ArtifactView, DeliveryView } from '@tambur/server';
import { Download, Pause, Play } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useStore } from 'zustand';
import { cancelDelivery, useDelivery } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { formatMoment } from '../ui/dates.ts';
import { FindingsTable } from '../ui/findings-table.tsx';
import { Fold } from '../ui/fold.tsx';
import { Failed, Loading, Progress } from '../ui/states.tsx';
import { VerdictMark } from '../ui/verdict.tsx';
import { BuildAgain } from './build-again.tsx';
import { FilePlayer } from './file-player.ts';

/** What was built: each file with its findings, to hear and to download. */
export function DeliveryPage() {
  const { deliveryId = '' } = useParams();
  const delivery = useDelivery(deliveryId);
  if (delivery.error) return <Failed error={delivery.error} retry={() => void delivery.refetch()} />;
  if (!delivery.data) return <Loading what="the delivery" />;
  return <Delivery delivery={delivery.data} />;
}

function Delivery({ delivery }: { delivery: DeliveryView }) {
  const [player] = useState(() => new FilePlayer());
  useEffect(() => () => player.close(), [player]);
  const { id, jobId, jobTitle, targetName, state, artifacts } = delivery;
  const bytes = artifacts.reduce((sum, file) => sum + file.bytes, 0);
  const worst = worstOf([...artifacts.flatMap(findingsOf), ...delivery.findings]);

  return (
    <div className="mx-auto w-full max-w-6xl px-4 py-5 sm:px-6">
      <title>{`Delivery of ${jobTitle} – Tambur`}</title>
      <p className="text-sm">
        <Link to={`/jobs/${jobId}`} className="underline underline-offset-2">
          Back to the bench
        </Link>
      </p>
      <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-3">
        <div>
          <h1 className="text-2xl font-bold tracking-tight">{jobTitle}</h1>
          <p className="text-graphite">
            Delivery for {targetName}, {formatMoment(delivery.createdAt)}
          </p>
        </div>
        {state === 'done' && (
          <a
            href={`/api/deliveries/${id}/zip`}
            download
            className="ml-auto inline-flex items-center gap-2 bg-pine px-4 py-2 font-semibold text-paper hover:opacity-90"
          >
            <Download className="size-4" aria-hidden /> Download the set
            <span className="figure font-normal">{formatBytes(bytes)}</span>
          </a>
        )}
      </div>

      {state === 'building' && (
        <div className="mt-6 max-w-md">
          <Progress value={delivery.progress} label="Building the set">
            <div className="mt-2 flex items-center justify-between">
              <span role="status">
                building {delivery.total} {delivery.total === 1 ? 'file' : 'files'},{' '}
                <span className="figure">{Math.round(delivery.progress * 100)} %</span>
              </span>
              <Button onClick={() => void cancelDelivery(id)}>Cancel</Button>
            </div>
          </Progress>
        </div>
      )}
      {state === 'cancelled' && <p className="mt-6">This build was cancelled; nothing of it was kept.</p>}
      {delivery.error && (
        <p role="alert" className="mt-6 border-l-4 border-brick bg-brick-tint px-4 py-3">
          {delivery.error}
        </p>
      )}

      {state === 'done' && (
        <>
          <p className="mt-4 flex items-center gap-2">
            <VerdictMark verdict={worst} silent />
            {worst === 'breaks'
              ? breakingWords(artifacts)
              : worst === 'advises'
                ? 'Everything plays; the sheet advises some changes.'
                : 'Every file was read again and meets the sheet.'}
          </p>
          {delivery.findings.map(({ key, title, wanted, found, verdict, mend }) => (
            <p key={`${key} ${title}`} className="mt-1 flex flex-wrap items-baseline gap-x-2 text-sm">
              <span className="text-graphite">{title}</span>
              <span className="figure">
                {found}, wanted {wanted}
              </span>
              <VerdictMark verdict={verdict} />
              {mend && <span>mend: {mend}</span>}
            </p>
          ))}
          <BuildAgain delivery={delivery} />
          <ul className="mt-3 border-t border-ink">
            {[...artifacts].sort(byTrouble).map((file) => (
              <FileRow key={file.path} file={file} deliveryId={id} player={player} />
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

/** What was found of all clips that stand in a file; those of several are told apart by their numbers. */
const findingsOf = ({ parts }: ArtifactView): readonly Finding[] =>
  parts.length === 1
    ? (parts[0]?.findings ?? [])
    : parts.flatMap(({ findings }, i) =>
        findings.map((finding) => ({ ...finding, title: `sound ${i + 1}: ${finding.title}` })),
      );

const breaks = (file: ArtifactView): boolean => worstOf(findingsOf(file)) === 'breaks';

/** Files that break the sheet come first. */
const byTrouble = (a: ArtifactView, b: ArtifactView): number => Number(breaks(b)) - Number(breaks(a));

/** "3 of 13 files break the sheet." */
function breakingWords(artifacts: readonly ArtifactView[]): string {
  const count = artifacts.filter(breaks).length;
  if (count === 0) return 'The set as a whole breaks the sheet.';
  return `${count} of ${artifacts.length} ${artifacts.length === 1 ? 'file' : 'files'} ${count === 1 ? 'breaks' : 'break'} the sheet.`;
}

function FileRow({ file, deliveryId, player }: { file: ArtifactView; deliveryId: string; player: FilePlayer }) {
  const { path, parts, role } = file;
  const playing = useStore(player.store, (state) => state.playing === path);
  const problem = useStore(player.store, (state) => (state.problem?.path === path ? state.problem.message : null));
  const href = `/api/deliveries/${deliveryId}/files/${encodeURIComponent(path)}`;
  const findings = findingsOf(file);
  const worst = worstOf(findings);
  const facts = role === 'sound' ? parts[0]?.facts : undefined;
  return (
    <li className="border-b border-hairline py-2">
      <div className="grid grid-cols-[2.25rem_minmax(0,1fr)_auto] items-center gap-x-3 sm:grid-cols-[2.25rem_minmax(0,1fr)_minmax(0,1fr)_5.5rem_6rem]">
        {facts ? (
          <Button
            kind="icon"
            aria-label={playing ? `Stop ${path}` : `Play ${path}`}
            onClick={() => void player.toggle(path, facts, href)}
          >
            {playing ? <Pause className="size-4" aria-hidden /> : <Play className="size-4" aria-hidden />}
          </Button>
        ) : (
          <span />
        )}
        <div className="min-w-0">
          <p className="figure truncate font-medium" title={path}>
            {path}
          </p>
          <p className="truncate text-sm text-graphite">{file.title}</p>
        </div>
        <p className="figure hidden text-sm sm:block">{facts && formatLength(facts.frames, facts.sampleRate)}</p>
        <p className="figure hidden text-right text-sm sm:block">{formatBytes(file.bytes)}</p>
        <a
          href={href}
          download={path}
          className="inline-flex items-center justify-end gap-1 text-sm underline underline-offset-2"
          aria-label={`Download ${path}`}
        >
          <Download className="size-3.5" aria-hidden /> download
        </a>
      </div>
      {problem && (
        <p role="alert" className="mt-1 ml-12 text-sm text-brick">
          {problem}
        </p>
      )}
      {findings
        .filter(({ verdict }) => verdict === 'breaks')
        .map(({ title, found, wanted, mend }) => (
          <p key={`${title} ${wanted}`} className="mt-1 ml-12 border-l-4 border-brick pl-2 text-sm">
            {title}: <span className="figure">{found}</span>, wanted <span className="figure">{wanted}</span>; mend:{' '}
            {mend}
          </p>
        ))}
      {findings.length > 0 && (
        <Fold
          className="mt-1 ml-12"
          title={
            <>
              <VerdictMark verdict={worst} silent />
              {worst === 'meets' ? `meets all ${findings.length} requirements` : `${worst} the sheet`}
            </>
          }
        >
          <FindingsTable findings={findings} />
          <p className="figure mt-1 text-xs break-all text-graphite">SHA-256 {file.sha256}</p>
        </Fold>
      )}
    </li>
  );
}
