import { demandsOf, formatBytes, notes, READ_ME, safeStem, worstOf } from '@tambur/core';
import type { DeliveryView } from '@tambur/server';
import { Download } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { deliveryHrefs } from '../api/delivery-files.ts';
import { useDelivery } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { formatMoment } from '../ui/dates.ts';
import { Fold } from '../ui/fold.tsx';
import { SetFindings } from '../ui/set-findings.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { useIsSmall } from '../ui/use-narrow.ts';
import { VerdictMark } from '../ui/verdict.tsx';
import { BudgetPicture } from './budget-picture.tsx';
import { BuildAgain } from './build-again.tsx';
import { Building } from './building.tsx';
import { Compare } from './compare.tsx';
import { FileList } from './file-list.tsx';
import { FilePanel } from './file-panel.tsx';
import { FilePlayer } from './file-player.ts';
import { readMeWanted, rememberReadMe } from './notes-choice.ts';
import { breakingWords, findingsOf, inOrderOfTrouble } from './verdicts.ts';
import { WriteFolder } from './write-folder.tsx';

/** What was built: each file with its findings, to hear, to look into and to take away. */
export function DeliveryPage() {
  const { deliveryId = '' } = useParams();
  const delivery = useDelivery(deliveryId);
  if (delivery.error) return <Failed error={delivery.error} retry={() => void delivery.refetch()} />;
  if (!delivery.data) return <Loading what="the delivery" />;
  return <Delivery key={delivery.data.id} delivery={delivery.data} />;
}

function Delivery({ delivery }: { delivery: DeliveryView }) {
  const { jobId, jobTitle, sheet, state } = delivery;
  return (
    <div className="mx-auto w-full max-w-[90rem] px-4 py-5 sm:px-6">
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
            Delivery for {sheet.name}, {formatMoment(delivery.createdAt)}
          </p>
        </div>
        {state === 'done' && <Out delivery={delivery} />}
      </div>
      {state === 'building' && <Building delivery={delivery} />}
      {state === 'cancelled' && <p className="mt-6">This build was cancelled; no files were kept.</p>}
      {delivery.error && (
        <p role="alert" className="mt-6 border-l-4 border-brick bg-brick-tint px-4 py-3">
          {delivery.error}
        </p>
      )}
      {state === 'done' && <Built delivery={delivery} />}
    </div>
  );
}

/** The ways to take a delivery away, and the READ-ME that goes with it. */
function Out({ delivery }: { delivery: DeliveryView }) {
  const { id, artifacts, sheet } = delivery;
  const [hasReadMe, setReadMe] = useState(() => readMeWanted(sheet));
  const bytes = artifacts.reduce((sum, file) => sum + file.bytes, 0);
  const texts = hasReadMe ? [{ id: 'read-me', path: READ_ME }] : [];
  return (
    <div className="ml-auto flex flex-wrap items-center justify-end gap-x-4 gap-y-2">
      <label className="flex items-center gap-2 text-sm">
        <input
          type="checkbox"
          className="accent-pine"
          checked={hasReadMe}
          onChange={({ target }) => {
            setReadMe(target.checked);
            rememberReadMe(target.checked);
          }}
        />
        with a READ-ME
      </label>
      <Link to={`/try/${id}`} className="border border-rule px-3 py-1.5 hover:border-ink hover:bg-sheet">
        Try it out
      </Link>
      <WriteFolder delivery={delivery} notes={texts} />
      <a
        href={deliveryHrefs.zip(
          id,
          texts.map((note) => note.id),
        )}
        download
        className="inline-flex items-center gap-2 bg-pine px-4 py-2 font-semibold text-paper hover:opacity-90"
      >
        <Download className="size-4" aria-hidden /> Download the set
        <span className="figure font-normal">{formatBytes(bytes)}</span>
      </a>
    </div>
  );
}

/** What makes the same files on the command line. */
function Repeat({ jobId, title }: { jobId: string; title: string }) {
  const name = `${safeStem(title, '-')}.tambur.zip`;
  return (
    <Fold title="The same on the command line">
      <p className="mt-1 text-sm">
        <a href={`/api/jobs/${jobId}/export`} download className="underline underline-offset-2">
          Export the job
        </a>
        , then: <code className="figure bg-sheet px-1">./tambur build {name} --out card</code>
      </p>
    </Fold>
  );
}

function Built({ delivery }: { delivery: DeliveryView }) {
  const { id, jobId, artifacts, sheet } = delivery;
  const [player] = useState(() => new FilePlayer());
  useEffect(() => () => player.close(), [player]);
  const texts = notes.filter((note) => note.suits(delivery));
  const files = inOrderOfTrouble(artifacts);
  const isSmall = useIsSmall();
  const [picked, setPicked] = useState<string | null>(null);
  // Where there is room for both, the first file is shown, which is the one in trouble.
  const shown = picked ?? (isSmall ? null : (files[0]?.path ?? null));
  const file = artifacts.find(({ path }) => path === shown);
  const worst = worstOf([...artifacts.flatMap(findingsOf), ...delivery.findings]);
  const mostBytes = demandsOf(sheet).setBytes?.value;
  return (
    <>
      <p className="mt-4 flex items-center gap-2">
        <VerdictMark verdict={worst} silent />
        {worst === 'breaks'
          ? breakingWords(artifacts)
          : worst === 'advises'
            ? 'Everything plays; the sheet advises some changes.'
            : 'Every file was read again and meets the sheet.'}
      </p>
      <SetFindings findings={delivery.findings} />
      <div className="mt-1 flex flex-wrap items-baseline gap-x-4 text-sm">
        <BuildAgain delivery={delivery} />
        <span className="text-graphite">
          Texts:{' '}
          {texts.map(({ id: note, title }, i) => (
            <span key={note}>
              {i > 0 && ', '}
              <a href={deliveryHrefs.note(id, note)} download className="underline underline-offset-2 hover:text-ink">
                {title}
              </a>
            </span>
          ))}
        </span>
      </div>
      <Repeat jobId={jobId} title={delivery.jobTitle} />
      {mostBytes !== undefined && <BudgetPicture artifacts={artifacts} mostBytes={mostBytes} />}
      <div className={`mt-4 grid gap-x-8 ${file ? 'lg:grid-cols-[minmax(20rem,26rem)_minmax(0,1fr)]' : 'max-w-3xl'}`}>
        <div className={file ? 'max-lg:hidden' : ''}>
          <FileList files={files} deliveryId={id} player={player} shown={shown} onShow={setPicked} />
          <Compare delivery={delivery} player={player} />
        </div>
        {file && (
          <div className="min-w-0">
            <Button kind="link" className="mb-2 text-sm lg:hidden" onClick={() => setPicked(null)}>
              Back to the files
            </Button>
            <FilePanel file={file} deliveryId={id} jobId={jobId} />
          </div>
        )}
      </div>
    </>
  );
}
