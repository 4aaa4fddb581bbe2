import { checkFile, type Facts, type Finding, messageOf, type Target, withVariant, worstOf } from '@tambur/core';
import { FileAudio } from 'lucide-react';
import { useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useSearchParams } from 'react-router';
import { useTargets } from '../api/queries.ts';
import { useBeginJob } from '../jobs/use-begin-job.ts';
import { FactsLines, Remarks } from '../shelf/facts-list.tsx';
import { VariantChoice } from '../targets/variant-choice.tsx';
import { variantIn } from '../targets/variants.ts';
import { Button } from '../ui/button.tsx';
import { FindingsTable } from '../ui/findings-table.tsx';
import { Fold } from '../ui/fold.tsx';
import { notifyFailure } from '../ui/notify.tsx';
import { Select } from '../ui/select.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { VerdictMark } from '../ui/verdict.tsx';
import { inspect } from './inspect.ts';

interface Checked {
  readonly id: string;
  readonly file: File;
  /** Undefined while it is being read. */
  readonly facts?: Facts;
  readonly refused?: string;
}

/** Any file against a sheet: what it is, what the device makes of it, and what mends it. */
export function CheckPage() {
  const targets = useTargets();
  if (targets.error) return <Failed error={targets.error} retry={() => void targets.refetch()} />;
  if (!targets.data) return <Loading what="the sheets" />;
  return <Check targets={targets.data} />;
}

function Check({ targets }: { targets: readonly Target[] }) {
  const [search, setSearch] = useSearchParams();
  const sheet = targets.find(({ id }) => id === search.get('target')) ?? targets[0];
  const variantId = search.get('variant');
  const isKnown = sheet && variantIn(sheet, variantId) === variantId;
  const target = isKnown ? withVariant(sheet, variantId) : sheet;
  const [files, setFiles] = useState<readonly Checked[]>([]);

  /** How often each file was read: once more for each device that it is checked against. */
  const readings = useRef(new Map<string, number>());

  const read = async ({ id, file }: Checked, reader: Target) => {
    const turn = (readings.current.get(id) ?? 0) + 1;
    readings.current.set(id, turn);
    const answer = await inspect(file, reader);
    // What was read as another device reads it says nothing any more.
    if (readings.current.get(id) !== turn) return;
    setFiles((before) => before.map((other) => (other.id === id ? { id, file, ...answer } : other)));
  };
  const readAll = (entries: readonly Checked[], reader: Target) => {
    for (const entry of entries) {
      read(entry, reader).catch((error: unknown) =>
        notifyFailure(`${entry.file.name} could not be read: ${messageOf(error)}`),
      );
    }
  };
  const choose = (id: string, variant: string | null) => {
    setSearch({ target: id, ...(variant ? { variant } : {}) }, { replace: true });
    const found = targets.find((entry) => entry.id === id);
    const next = found && withVariant(found, variant);
    // Bare samples are read as the device reads them, so another device may hear something else.
    if (next) readAll(files, next);
  };
  const add = (dropped: readonly File[]) => {
    if (!target) return;
    const entries = dropped.map((file) => ({ id: crypto.randomUUID(), file }));
    setFiles((before) => [...entries, ...before]);
    readAll(entries, target);
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: add,
    noClick: true,
    noKeyboard: true,
  });
  if (!target) return null;
  if (!isKnown) {
    const error = new Error(`${target.name} has no variant "${variantId}"; choose the sheet and its variant again.`);
    return <Failed error={error} retry={() => setSearch({ target: target.id })} />;
  }
  return (
    <div className="mx-auto w-full max-w-6xl px-4 py-6 sm:px-6">
      <title>Check a file – Tambur</title>
      <h1 className="text-2xl font-bold tracking-tight">Check a file</h1>
      <p className="mt-1 text-graphite">Any file, checked against a sheet. It stays where it is.</p>
      <div className="mt-4 grid gap-x-10 gap-y-4 lg:grid-cols-[20rem_minmax(0,1fr)]">
        <div>
          <Select
            label="Device"
            value={target.id}
            onChange={(id) => choose(id, null)}
            options={targets.map(({ id, name }) => ({ value: id, label: name }))}
          />
          <div className="mt-3">
            <VariantChoice target={target} value={variantId} onChange={(variant) => choose(target.id, variant)} />
          </div>
          <p className="mt-2 text-sm text-graphite">{target.about}</p>
        </div>
        <div
          {...getRootProps({
            className: `flex min-h-36 flex-wrap items-center justify-center gap-x-4 gap-y-2 border-2 border-dashed p-5 ${
              isDragActive ? 'border-pine bg-pine-tint' : 'border-rule bg-sheet'
            }`,
          })}
        >
          <input {...getInputProps({ 'aria-label': 'Files to check' })} />
          <FileAudio className="size-7 text-pine" strokeWidth={1.25} aria-hidden />
          <p className="text-lg font-semibold">Drop files here</p>
          <Button kind="main" onClick={open}>
            Choose files
          </Button>
        </div>
      </div>
      <ul className="mt-6 grid gap-6">
        {files.map((entry) => (
          <CheckedFile key={entry.id} entry={entry} target={target} variantId={variantId} />
        ))}
      </ul>
    </div>
  );
}

const SUMMARY: Readonly<Record<Finding['verdict'], string>> = {
  meets: 'meets the sheet',
  advises: 'plays; the sheet advises some changes',
  breaks: 'does not meet the sheet',
  unknown: 'meets the sheet as far as its bytes say',
};

interface CheckedProps {
  readonly entry: Checked;
  readonly target: Target;
  readonly variantId: string | null;
}

function CheckedFile({ entry: { file, facts, refused }, target, variantId }: CheckedProps) {
  const { begin, isPending } = useBeginJob();
  const findings = facts ? checkFile(target, facts, file.name) : [];
  const worst = worstOf(findings);
  return (
    <li className="border-t border-ink pt-2">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2 className="figure min-w-0 truncate font-semibold" title={file.name}>
          {file.name}
        </h2>
        {facts && (
          <p role="status" className="flex items-baseline gap-2">
            <VerdictMark verdict={worst} silent /> {SUMMARY[worst]}
          </p>
        )}
        {facts && worst !== 'meets' && (
          <Button kind="main" className="ml-auto" disabled={isPending} onClick={() => begin(target, [file], variantId)}>
            Make it fit
          </Button>
        )}
      </div>
      {!facts && !refused && (
        <p role="status" className="mt-1 text-sm text-graphite">
          reading …
        </p>
      )}
      {refused && (
        <p role="alert" className="mt-2 border-l-4 border-brick bg-brick-tint px-3 py-2">
          {refused}
        </p>
      )}
      {facts && (
        <div className="mt-2 grid items-start gap-x-10 gap-y-3 lg:grid-cols-[minmax(0,1fr)_20rem]">
          <FindingsTable findings={findings} />
          <Fold title="All facts" isOpen>
            <Remarks facts={facts} name={file.name} />
            <FactsLines facts={facts} name={file.name} />
          </Fold>
        </div>
      )}
    </li>
  );
}
