import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/react';
import {
  type CheckedCard,
  type CheckedFile,
  type Finding,
  formatCount,
  messageOf,
  type Target,
  withVariant,
  worstOf,
} from '@tambur/core';
import { ChevronRight, FileAudio } from 'lucide-react';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useSearchParams } from 'react-router';
import { useTargets } from '../api/queries.ts';
import { useBeginJob } from '../job/use-begin-job.ts';
import { variantIn } from '../job/variants.ts';
import { FactsLines, Remarks } from '../shelf/facts-list.tsx';
import { DeviceChoice } from '../targets/device-choice.tsx';
import { Button } from '../ui/button.tsx';
import { FindingsTable } from '../ui/findings-table.tsx';
import { Fold } from '../ui/fold.tsx';
import { notifyFailure } from '../ui/notify.tsx';
import { SetFindings } from '../ui/set-findings.tsx';
import { Failed, Loading, Progress } from '../ui/states.tsx';
import { VerdictMark } from '../ui/verdict.tsx';
import { checkGiven, type DroppedFiles, givenIn } from './given.ts';

interface Checked {
  readonly given: DroppedFiles;
  /** Files that have been read. */
  readonly count: number;
  /** Null while it is being read. */
  readonly card: CheckedCard | null;
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
  const [checked, setChecked] = useState<readonly Checked[]>([]);

  /** What ends the reading of each; for another device it is read again, and the reading before says nothing any more. */
  const readings = useRef(new Map<string, AbortController>());

  // Whoever leaves does not wait for anything any more.
  useEffect(() => {
    const all = readings.current;
    return () => {
      for (const reading of all.values()) reading.abort();
    };
  }, []);

  const read = async (given: DroppedFiles, reader: Target) => {
    const { id } = given;
    readings.current.get(id)?.abort();
    const reading = new AbortController();
    readings.current.set(id, reading);
    const { signal } = reading;
    const change = (now: Partial<Checked>) => {
      if (signal.aborted) return;
      setChecked((before) => before.map((other) => (other.given.id === id ? { ...other, ...now } : other)));
    };
    // What was said for the device before says nothing of this one.
    change({ card: null, count: 0 });
    try {
      change({ card: await checkGiven(given, reader, (count) => change({ count }), signal) });
    } catch (error) {
      if (!signal.aborted) notifyFailure(`${wordsOf(given)} could not be read: ${messageOf(error)}`);
    }
  };
  const readAll = (all: readonly DroppedFiles[], reader: Target) => {
    for (const given of all) void read(given, reader);
  };
  const [stop] = useState(() => (id: string) => {
    readings.current.get(id)?.abort();
    setChecked((before) => before.filter(({ given }) => given.id !== id));
  });
  const choose = (id: string, variant: string | null) => {
    setSearch({ target: id, ...(variant ? { variant } : {}) }, { replace: true });
    const found = targets.find((entry) => entry.id === id);
    const next = found && withVariant(found, variant);
    // Bare samples are read as the device reads them, so another device may hear something else.
    if (next)
      readAll(
        checked.map(({ given }) => given),
        next,
      );
  };
  const add = async (dropped: readonly File[]) => {
    if (!target) return;
    try {
      const all = await givenIn(dropped);
      setChecked((before) => [...all.map((given) => ({ given, count: 0, card: null })), ...before]);
      readAll(all, target);
    } catch (error) {
      notifyFailure(error);
    }
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (dropped) => void add(dropped),
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
      <p className="mt-1 text-graphite">
        Any file, or a whole card as a folder or a ZIP, checked against a sheet. It stays where it is.
      </p>
      <div className="mt-4 grid gap-x-10 gap-y-4 lg:grid-cols-[20rem_minmax(0,1fr)]">
        <DeviceChoice targets={targets} target={target} variantId={variantId} onChange={choose} />
        <div
          {...getRootProps({
            className: `flex min-h-36 flex-wrap items-center justify-center gap-x-4 gap-y-2 border-2 border-dashed p-5 ${
              isDragActive ? 'border-pine bg-pine-tint' : 'border-rule bg-sheet'
            }`,
          })}
        >
          <input {...getInputProps({ 'aria-label': 'Files to check' })} />
          <FileAudio className="size-7 text-pine" strokeWidth={1.25} aria-hidden />
          <p className="text-lg font-semibold">Drop files, a folder or a ZIP here</p>
          <Button kind="main" onClick={open}>
            Choose files
          </Button>
        </div>
      </div>
      <div className="mt-6 grid gap-6">
        {checked.map((entry) => (
          <CheckedGiven key={entry.given.id} checked={entry} target={target} variantId={variantId} onStop={stop} />
        ))}
      </div>
    </div>
  );
}

const SHOWN_NAMES = 3;

/** What was dropped, in words. */
function wordsOf({ title, files }: DroppedFiles): string {
  const names = files.slice(0, SHOWN_NAMES).map(({ path }) => path);
  const more = files.length > SHOWN_NAMES ? ` and ${formatCount(files.length - SHOWN_NAMES)} more` : '';
  return title ?? names.join(', ') + more;
}

/** Of more files than this each is one line until it is opened, and what needs work comes first. */
const FEW = 20;
/** Files that are shown at a time. */
const SHOWN = 100;

/** What a file of many is, what needs work first. It belongs to the first that it fits. */
const groups: readonly { readonly words: string; readonly has: (file: CheckedFile) => boolean }[] = [
  { words: 'cannot be read', has: ({ refused }) => refused !== undefined },
  { words: 'to be mended', has: ({ findings }) => worstOf(findings) === 'breaks' },
  { words: 'with advice', has: ({ findings }) => worstOf(findings) === 'advises' },
  { words: 'fit as far as their bytes say', has: ({ findings }) => worstOf(findings) === 'unknown' },
  { words: 'not for the device', has: ({ role }) => role === 'other' },
  { words: 'fit', has: () => true },
];

/** The files of each group, and which of those that were dropped each is. */
const grouped = (files: readonly CheckedFile[]) => {
  const found = groups.map(({ words }) => ({ words, entries: [] as { entry: CheckedFile; index: number }[] }));
  for (const [index, entry] of files.entries()) {
    found[groups.findIndex(({ has }) => has(entry))]?.entries.push({ entry, index });
  }
  return found.filter(({ entries }) => entries.length > 0);
};

interface GivenProps {
  readonly checked: Checked;
  readonly target: Target;
  readonly variantId: string | null;
  readonly onStop: (id: string) => void;
}

/** What was dropped at once: a card with what holds for all of it, or files alone. */
const CheckedGiven = memo(function CheckedGiven({
  checked: { given, count, card },
  target,
  variantId,
  onStop,
}: GivenProps) {
  const { title, files } = given;
  const [shown, setShown] = useState(SHOWN);
  const isMany = files.length > FEW;
  const found = useMemo(() => grouped(card && isMany ? card.files : []), [card, isMany]);
  const entries = isMany
    ? found.flatMap((group) => group.entries)
    : (card?.files.map((entry, index) => ({ entry, index })) ?? []);
  return (
    <section aria-label={title ?? undefined}>
      {title !== null && (
        <div className="mb-3 border-t-2 border-ink pt-2">
          <h2 className="text-lg font-semibold">
            {title}{' '}
            <span className="figure ml-2 text-sm font-normal text-graphite">{formatCount(files.length)} files</span>
          </h2>
          <SetFindings findings={card?.set ?? []} />
        </div>
      )}
      {isMany && card && (
        <p role="status" className="mb-2 text-sm text-graphite">
          {found.map(({ words, entries: { length } }) => `${formatCount(length)} ${words}`).join(', ')}
        </p>
      )}
      {card ? (
        <ul className={`grid ${isMany ? 'gap-1' : 'gap-6'}`}>
          {entries.slice(0, shown).map(({ entry, index }) => (
            <CheckedEntry
              key={entry.path}
              heading={title === null ? 'h2' : 'h3'}
              entry={entry}
              file={files[index]?.file}
              isFolded={isMany}
              target={target}
              variantId={variantId}
            />
          ))}
        </ul>
      ) : (
        <div className={title === null ? 'border-t border-ink pt-2' : ''}>
          {title === null && <p className="figure min-w-0 truncate font-semibold">{wordsOf(given)}</p>}
          <Progress value={count / files.length} label={`Reading ${wordsOf(given)}`}>
            <span role="status">
              reading {files.length > 1 && `${formatCount(count)} of ${formatCount(files.length)}`} …
            </span>
            <Button kind="quiet" onClick={() => onStop(given.id)}>
              Stop
            </Button>
          </Progress>
        </div>
      )}
      {entries.length > shown && (
        <Button className="mt-4" onClick={() => setShown(shown + SHOWN)}>
          Show {formatCount(Math.min(SHOWN, entries.length - shown))} more of {formatCount(entries.length - shown)}
        </Button>
      )}
    </section>
  );
});

const SUMMARY: Readonly<Record<Finding['verdict'], string>> = {
  meets: 'meets the sheet',
  advises: 'plays; the sheet advises some changes',
  breaks: 'does not meet the sheet',
  unknown: 'meets the sheet as far as its bytes say',
};

/** What a file is, where it is no sound. */
const ROLES: Readonly<Record<CheckedFile['role'], string>> = {
  sound: '',
  list: 'a list file of the device',
  pack: 'all sounds in one file',
  other: 'not for the device',
};

interface EntryProps {
  /** Of a file alone, or of one on a card that has a heading. */
  readonly heading: 'h2' | 'h3';
  readonly entry: CheckedFile;
  readonly file: File | undefined;
  /** True if it is one line until it is opened. */
  readonly isFolded: boolean;
  readonly target: Target;
  readonly variantId: string | null;
}

function CheckedEntry({ heading: Heading, entry, file, isFolded, target, variantId }: EntryProps) {
  const { begin, isPending } = useBeginJob();
  const { path, role, facts, refused, findings } = entry;
  const worst = worstOf(findings);
  const isAnswered = findings.length > 0 && refused === undefined;
  return (
    <Disclosure
      as="li"
      defaultOpen={!isFolded}
      className={`border-t pt-2 ${isFolded ? 'border-hairline' : 'border-ink'}`}
    >
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <Heading className="figure min-w-0 truncate font-semibold" title={path}>
          {isFolded && isAnswered ? (
            <DisclosureButton className="group inline-flex items-baseline gap-1 hover:text-pine">
              <ChevronRight className="size-3.5 shrink-0 self-center group-data-open:rotate-90" aria-hidden />
              {path}
            </DisclosureButton>
          ) : (
            path
          )}
        </Heading>
        {ROLES[role] && <p className="text-sm text-graphite">{ROLES[role]}</p>}
        {isAnswered && (
          <p role={isFolded ? undefined : 'status'} className="flex items-baseline gap-2">
            <VerdictMark verdict={worst} silent /> {SUMMARY[worst]}
          </p>
        )}
        {facts && file && worst !== 'meets' && (
          <Button
            kind={isFolded ? 'quiet' : 'main'}
            className="ml-auto"
            disabled={isPending}
            onClick={() => begin(target, [file], variantId)}
          >
            Make it fit
          </Button>
        )}
      </div>
      {refused && (
        <p role="alert" className="mt-2 border-l-4 border-brick bg-brick-tint px-3 py-2">
          {refused}
        </p>
      )}
      {isAnswered && (
        <DisclosurePanel className="mt-2 grid items-start gap-x-10 gap-y-3 lg:grid-cols-[minmax(0,1fr)_20rem]">
          <FindingsTable findings={findings} />
          {facts && (
            <Fold title="All facts" isOpen>
              <Remarks facts={facts} name={path} />
              <FactsLines facts={facts} name={path} />
            </Fold>
          )}
        </DisclosurePanel>
      )}
    </Disclosure>
  );
}
