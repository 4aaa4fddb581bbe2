import { messageOf, readSheet, type Target, withVariant } from '@tambur/core';
import type { SheetView } from '@tambur/server';
import { useRef, useState } from 'react';
import { Link, NavLink, useNavigate, useParams } from 'react-router';
import { addSheet, deleteSheet, useRefreshSheets, useTargets } from '../api/queries.ts';
import { copyOf, newSheet, sheetOf } from '../job/sheets.ts';
import { useBeginJob } from '../job/use-begin-job.ts';
import { variantIn } from '../job/variants.ts';
import { Button } from '../ui/button.tsx';
import { Confirm } from '../ui/confirm.tsx';
import { notify, notifyFailure } from '../ui/notify.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { Sheet } from './sheet.tsx';
import { TryFile } from './try-file.tsx';

/** Every sheet, one of them open: to be read, tried, copied, changed and passed on. */
export function TargetsPage() {
  const targets = useTargets();
  const { targetId } = useParams();
  if (targets.error) return <Failed error={targets.error} retry={() => void targets.refetch()} />;
  if (!targets.data) return <Loading what="the sheets" />;
  const target = targetId === undefined ? targets.data[0] : targets.data.find(({ id }) => id === targetId);
  const own = targets.data.filter(({ isOwn }) => isOwn);
  return (
    <div className="mx-auto grid w-full max-w-6xl gap-x-10 gap-y-5 px-4 py-6 sm:px-6 lg:grid-cols-[17rem_minmax(0,1fr)]">
      <nav aria-label="Target sheets">
        <div className="flex items-baseline">
          <h1 className="flex-1 text-2xl font-bold tracking-tight">Targets</h1>
          <NewSheet />
          <ImportSheets />
        </div>
        <SheetList sheets={targets.data.filter(({ isOwn }) => !isOwn)} open={target} />
        {own.length > 0 && (
          <>
            <h2 className="label mt-5">Your own</h2>
            <SheetList sheets={own} open={target} />
          </>
        )}
      </nav>
      {target ? <OpenSheet key={target.id} view={target} /> : <p>There is no sheet with that name.</p>}
    </div>
  );
}

function SheetList({ sheets, open }: { sheets: readonly SheetView[]; open: SheetView | undefined }) {
  return (
    <ul className="mt-2 border-t border-ink">
      {sheets.map(({ id, name }) => (
        <li key={id} className="border-b border-hairline">
          <NavLink
            to={`/targets/${id}`}
            className={`block px-2 py-1 hover:bg-sheet ${id === open?.id ? 'border-l-4 border-pine bg-pine-tint font-semibold' : ''}`}
          >
            {name}
          </NavLink>
        </li>
      ))}
    </ul>
  );
}

/** Begins a sheet of which nothing is known yet. */
function NewSheet() {
  const refresh = useRefreshSheets();
  const navigate = useNavigate();
  const begin = async () => {
    try {
      const { id } = await addSheet(newSheet());
      await refresh();
      navigate(`/targets/${id}/edit`);
    } catch (error) {
      notifyFailure(error);
    }
  };
  return (
    <Button kind="quiet" aria-label="New sheet" onClick={() => void begin()}>
      New
    </Button>
  );
}

/** Takes sheets from their files; a broken one names the line that is wrong. */
function ImportSheets() {
  const input = useRef<HTMLInputElement>(null);
  const [refused, setRefused] = useState<readonly string[]>([]);
  const refresh = useRefreshSheets();
  const navigate = useNavigate();
  const take = async (files: readonly File[]) => {
    const problems: string[] = [];
    let last: SheetView | null = null;
    for (const file of files) {
      try {
        last = await addSheet(readSheet(await file.text(), file.name));
      } catch (error) {
        problems.push(messageOf(error));
      }
    }
    setRefused(problems);
    await refresh();
    if (last) navigate(`/targets/${last.id}`);
  };
  return (
    <>
      <Button kind="quiet" onClick={() => input.current?.click()}>
        Import …
      </Button>
      <input
        ref={input}
        type="file"
        multiple
        accept=".json,application/json"
        aria-label="Sheet files"
        className="hidden"
        onChange={(event) => {
          void take([...(event.target.files ?? [])]);
          event.target.value = '';
        }}
      />
      {refused.length > 0 && (
        <Confirm
          title={refused.length === 1 ? 'The sheet could not be read' : `${refused.length} sheets could not be read`}
          text={refused.join(' ')}
          action="Choose again"
          refusal="Close"
          onConfirm={() => {
            setRefused([]);
            input.current?.click();
          }}
          onClose={() => setRefused([])}
        />
      )}
    </>
  );
}

function OpenSheet({ view }: { view: SheetView }) {
  const target = sheetOf(view);
  const navigate = useNavigate();
  const refresh = useRefreshSheets();
  const [asks, setAsks] = useState(false);
  const [chosen, setVariantId] = useState<string | null>(null);
  const variantId = variantIn(target, chosen);
  const job = useBeginJob();

  const add = async (sheet: Target, then: (added: SheetView) => void) => {
    try {
      const added = await addSheet(sheet);
      await refresh();
      then(added);
    } catch (error) {
      notifyFailure(error);
    }
  };
  const remove = async () => {
    setAsks(false);
    try {
      await deleteSheet(view.id);
      await refresh();
      navigate('/targets');
      notify(`${view.name} deleted`, {
        label: 'Undo',
        onClick: () => void add(target, ({ id }) => navigate(`/targets/${id}`)),
      });
    } catch (error) {
      notifyFailure(error);
    }
  };

  return (
    <div className="min-w-0">
      <title>{`${view.name} – Tambur`}</title>
      <Sheet
        target={target}
        variantId={variantId}
        onVariant={setVariantId}
        actions={
          <div className="flex flex-wrap gap-1.5">
            <Button kind="main" disabled={job.isPending} onClick={() => job.begin(target, [], variantId)}>
              Start a job
            </Button>
            {view.isOwn && <Button onClick={() => navigate(`/targets/${view.id}/edit`)}>Edit</Button>}
            <Button onClick={() => void add(copyOf(target), ({ id }) => navigate(`/targets/${id}/edit`))}>
              Duplicate
            </Button>
            <a
              href={`/api/targets/${view.id}/file`}
              className="inline-flex items-center border border-rule px-3 py-1.5 hover:border-ink hover:bg-sheet"
            >
              Export
            </a>
            {view.isOwn && <Button onClick={() => setAsks(true)}>Delete</Button>}
          </div>
        }
      />
      <p className="mt-2 text-sm text-graphite">
        {view.usedBy.length > 0 && (
          <>
            Used by{' '}
            {view.usedBy.map(({ jobId, title }, i) => (
              <span key={jobId}>
                {i > 0 && ', '}
                <Link to={`/jobs/${jobId}`} className="underline underline-offset-2">
                  {title}
                </Link>
              </span>
            ))}
            .{' '}
          </>
        )}
        {view.isOwn ? '' : 'This sheet ships with Tambur: duplicate it to change it. '}
        <a href="/target-sheet.schema.json" className="underline underline-offset-2">
          JSON Schema of sheets
        </a>
      </p>
      <TryFile target={withVariant(target, variantId)} />
      {asks && (
        <Confirm
          title={`Delete ${view.name}?`}
          text="Deliveries keep their record of the sheet as it was."
          action="Delete"
          refusal="Keep it"
          onConfirm={() => void remove()}
          onClose={() => setAsks(false)}
        />
      )}
    </div>
  );
}
