import {
  formatCount,
  InputError,
  LARGEST_LIST,
  type Listed,
  type ListFile,
  type MergedList,
  mergedList,
  messageOf,
  readBytesAsText,
  type Target,
} from '@tambur/core';
import { useQuery } from '@tanstack/react-query';
import { diffLines } from 'diff';
import { useRef, useState } from 'react';
import { useStore } from 'zustand';
import { fetchList, keepList } from '../api/lists.ts';
import type { JobStore } from '../job/job-store.ts';
import { chainOf, type SettledSet } from '../job/set.ts';
import { Button } from '../ui/button.tsx';
import { Modal } from '../ui/modal.tsx';

interface Props {
  readonly store: JobStore;
  readonly set: SettledSet;
  readonly target: Target;
}

/** A list that the device has, and what it would become. */
interface Offer {
  readonly list: ListFile;
  readonly bytes: Uint8Array;
  /** Null if nothing can be learned from it; then `problem` says why. */
  readonly merged: MergedList | null;
  readonly problem: string;
}

/** What the list tells of the files, before they are built. */
export function listedFiles(store: JobStore, set: SettledSet): readonly Listed[] {
  return [...set.files].flatMap(([clip, files]) => {
    const chain = chainOf(set.settled.get(clip));
    if (!chain) return [];
    const { fileName, stations } = chain;
    const displayName = store.getState().job.clips.find(({ id }) => id === clip)?.name ?? '';
    const facts = {
      frames: stations.ends.plan.frames,
      bytes: 0,
      soundBytes: 0,
      sampleRate: stations.rate.plan.to,
      container: stations.wrap.plan.container,
    };
    return files.map(({ stem, slots }) => ({
      displayName,
      fileName: stem + fileName.slice(fileName.lastIndexOf('.')),
      slots,
      facts,
    }));
  });
}

/** The list files of the sheet: made again, or from what the device has now. */
export function OwnLists({ store, set, target }: Props) {
  const ownLists = useStore(store, ({ job }) => job.ownLists);
  const [offer, setOffer] = useState<Offer | null>(null);
  if (target.lists.length === 0) return null;
  const look = (list: ListFile, bytes: Uint8Array) => {
    try {
      setOffer({ list, bytes, merged: mergedList(target, list, listedFiles(store, set), bytes), problem: '' });
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      setOffer({ list, bytes, merged: null, problem: error.message });
    }
  };
  return (
    <div className="grid gap-1 border-b border-hairline px-4 py-2 print:hidden sm:px-6">
      {target.lists.map((list) => (
        <ListLine
          key={list.key}
          list={list}
          own={ownLists[list.key]}
          onLook={(bytes) => look(list, bytes)}
          onRemove={() => store.getState().setOwnList(list.key, null)}
        />
      ))}
      {offer && (
        <DiffDialog
          offer={offer}
          onClose={() => setOffer(null)}
          onUse={(sha256) => {
            store.getState().setOwnList(offer.list.key, sha256);
            setOffer(null);
          }}
        />
      )}
    </div>
  );
}

interface LineProps {
  readonly list: ListFile;
  /** SHA-256 of the device's own; undefined if it is made from scratch. */
  readonly own: string | undefined;
  readonly onLook: (bytes: Uint8Array) => void;
  readonly onRemove: () => void;
}

function ListLine({ list, own, onLook, onRemove }: LineProps) {
  const input = useRef<HTMLInputElement>(null);
  const kept = useQuery({ queryKey: ['list', own], queryFn: () => fetchList(own ?? ''), enabled: own !== undefined });
  const take = async (files: FileList | readonly File[]) => {
    const [file] = files;
    // One byte too many is enough to be refused.
    if (file) onLook(new Uint8Array(await file.slice(0, LARGEST_LIST + 1).arrayBuffer()));
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the button beside does the same by key
    <div
      className="flex flex-wrap items-baseline gap-x-3 text-sm"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        event.stopPropagation();
        void take(event.dataTransfer.files);
      }}
    >
      <span className="label">list file</span>
      <span className="figure">{list.path}</span>
      {own === undefined ? (
        <>
          <span className="text-graphite">is made from scratch</span>
          <Button kind="link" onClick={() => input.current?.click()}>
            Start from the one that the device has …
          </Button>
        </>
      ) : (
        <>
          <span className="text-pine">starts from the device's own</span>
          <Button kind="link" disabled={!kept.data} onClick={() => kept.data && onLook(kept.data)}>
            Show the difference
          </Button>
          <Button kind="link" onClick={() => input.current?.click()}>
            Another …
          </Button>
          <Button kind="link" onClick={onRemove}>
            Make it from scratch
          </Button>
        </>
      )}
      {kept.error && <span className="text-brick">{messageOf(kept.error)}</span>}
      <input
        ref={input}
        type="file"
        className="hidden"
        aria-label={`The device's ${list.path}`}
        onChange={({ target }) => {
          if (target.files) void take(target.files);
          target.value = '';
        }}
      />
    </div>
  );
}

const countOf = (count: number, one: string, many: string) => `${formatCount(count)} ${count === 1 ? one : many}`;

interface DialogProps {
  readonly offer: Offer;
  readonly onClose: () => void;
  readonly onUse: (sha256: string) => void;
}

const LOOKS = {
  added: { sign: '+', look: 'bg-pine-tint' },
  removed: { sign: '\u2212', look: 'bg-brick-tint line-through decoration-brick/50' },
  same: { sign: ' ', look: 'text-graphite' },
} as const;

/** What the device's list becomes, line by line, before anything is written. */
function DiffDialog({ offer: { list, bytes, merged, problem }, onClose, onUse }: DialogProps) {
  const [failed, setFailed] = useState('');
  const use = async () => {
    try {
      onUse(await keepList(bytes));
    } catch (error) {
      setFailed(messageOf(error));
    }
  };
  const lines = merged
    ? diffLines(readBytesAsText(bytes), readBytesAsText(merged.bytes)).flatMap(({ value, added, removed }) =>
        value
          .replace(/\r?\n$/, '')
          .split(/\r?\n/)
          .map((text) => ({
            text,
            kind: added ? ('added' as const) : removed ? ('removed' as const) : ('same' as const),
          })),
      )
    : [];
  return (
    <Modal
      wide
      title={`${list.path}, from the device's own`}
      onClose={onClose}
      actions={
        <>
          {failed && (
            <p role="alert" className="mr-auto text-sm text-brick">
              {failed}
            </p>
          )}
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="main" disabled={!merged} onClick={() => void use()}>
            Start from it
          </Button>
        </>
      }
    >
      {merged ? (
        <p className="text-sm">
          Rows: {merged.shape}. {countOf(merged.kept, 'stays', 'stay')},{' '}
          {countOf(merged.replaced.length, 'is replaced', 'are replaced')},{' '}
          {countOf(merged.added.length, 'comes', 'come')} after them.
        </p>
      ) : (
        <p role="alert" className="text-brick">
          {problem}
        </p>
      )}
      {lines.length > 0 && (
        <section
          className="figure mt-3 max-h-80 overflow-auto border border-hairline bg-sheet py-1 text-sm whitespace-pre"
          aria-label="The difference"
          // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by key
          tabIndex={0}
        >
          {lines.map(({ text, kind }, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: lines have nothing else, and never move
            <span key={i} className={`block px-2 ${LOOKS[kind].look}`}>
              <span className="inline-block w-4 select-none">{LOOKS[kind].sign}</span>
              {text}
            </span>
          ))}
        </section>
      )}
    </Modal>
  );
}
