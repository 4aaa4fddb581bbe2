import { askedBy, formatCount, messageOf, type Target } from '@tambur/core';
import type { DeliveryView } from '@tambur/server';
import { FolderDown } from 'lucide-react';
import { useRef, useState } from 'react';
import { fetchBytes } from '../api/client.ts';
import { deliveryHrefs, fetchText } from '../api/delivery-files.ts';
import { Button } from '../ui/button.tsx';
import { Modal } from '../ui/modal.tsx';
import { notifyFailure } from '../ui/notify.tsx';
import { sha256Of } from '../ui/sha256.ts';
import { Progress } from '../ui/states.tsx';
import { type FolderFile, type FolderSurvey, NotWritten, surveyFolder, writeFolder } from './folder-writer.ts';

declare global {
  interface Window {
    /** Of browsers that have it (File System Access). */
    showDirectoryPicker?: (options: { readonly mode: 'readwrite' }) => Promise<FileSystemDirectoryHandle>;
  }
}

interface Props {
  readonly delivery: DeliveryView;
  /** Path and id of the notes that go with it. */
  readonly notes: readonly { readonly id: string; readonly path: string }[];
}

/** A folder that was picked, and what lies in it. */
interface Picked {
  readonly folder: FileSystemDirectoryHandle;
  readonly files: readonly FolderFile[];
  readonly survey: FolderSurvey;
}

/** Writes the delivery into a folder of the user's, such as the card itself, where the browser can. */
export function WriteFolder({ delivery, notes }: Props) {
  const [picked, setPicked] = useState<Picked | null>(null);
  const pick = window.showDirectoryPicker;
  if (!pick) return null;
  const filesOf = async (): Promise<readonly FolderFile[]> => {
    const sounds = delivery.artifacts.map(({ path, sha256 }) => ({
      path,
      sha256,
      bytes: (signal: AbortSignal) => fetchBytes(deliveryHrefs.file(delivery.id, path), signal),
    }));
    const texts = notes.map(async ({ id, path }) => {
      const bytes = new TextEncoder().encode(await fetchText(deliveryHrefs.note(delivery.id, id)));
      return { path, sha256: await sha256Of(bytes), bytes: async () => bytes };
    });
    return [...sounds, ...(await Promise.all(texts))];
  };
  const choose = async () => {
    try {
      const folder = await pick.call(window, { mode: 'readwrite' });
      const files = await filesOf();
      setPicked({ folder, files, survey: await surveyFolder(folder, files) });
    } catch (error) {
      // Whoever closes the picker wants nothing.
      if (!(error instanceof DOMException && error.name === 'AbortError')) notifyFailure(error);
    }
  };
  return (
    <>
      <Button onClick={() => void choose()}>
        <FolderDown className="size-4" aria-hidden /> Write into a folder …
      </Button>
      {picked && <WriteDialog picked={picked} sheet={delivery.sheet} onClose={() => setPicked(null)} />}
    </>
  );
}

type State =
  | { readonly is: 'asked' }
  | { readonly is: 'writing'; readonly count: number }
  | { readonly is: 'done' }
  | { readonly is: 'failed'; readonly message: string; readonly count: number; readonly left: string | null };

const SHOWN = 8;

function Paths({ paths }: { readonly paths: readonly string[] }) {
  return (
    <ul className="figure mt-1 ml-4 text-sm">
      {paths.slice(0, SHOWN).map((path) => (
        <li key={path} className="truncate">
          {path}
        </li>
      ))}
      {paths.length > SHOWN && <li>and {formatCount(paths.length - SHOWN)} more</li>}
    </ul>
  );
}

const files = (count: number) => `${formatCount(count)} ${count === 1 ? 'file' : 'files'}`;

function WriteDialog({ picked, sheet, onClose }: { picked: Picked; sheet: Target; onClose: () => void }) {
  const { folder, survey } = picked;
  const [state, setState] = useState<State>({ is: 'asked' });
  const stop = useRef<AbortController>(undefined);
  const wantsNothingElse = askedBy(sheet).some(({ kind }) => kind === 'nothing-else');
  const write = async () => {
    stop.current = new AbortController();
    let count = 0;
    setState({ is: 'writing', count });
    try {
      await writeFolder(folder, picked.files, stop.current.signal, (written) => {
        count = written;
        setState({ is: 'writing', count });
      });
      setState({ is: 'done' });
    } catch (error) {
      const message = stop.current.signal.aborted ? 'Stopped.' : messageOf(error);
      const left = error instanceof NotWritten && error.isLeft ? error.path : null;
      setState({ is: 'failed', message, count, left });
    }
  };
  const close = () => {
    stop.current?.abort();
    onClose();
  };
  const label = survey.replaced.length ? `Replace ${files(survey.replaced.length)} and write` : 'Write';
  return (
    <Modal
      title={`Into the folder ${folder.name || 'that was picked'}`}
      onClose={close}
      actions={
        state.is === 'writing' ? (
          <Button onClick={() => stop.current?.abort()}>Stop</Button>
        ) : state.is === 'done' ? (
          <Button kind="main" onClick={close}>
            Close
          </Button>
        ) : (
          <>
            <Button onClick={close}>Cancel</Button>
            <Button kind="main" onClick={() => void write()}>
              {state.is === 'failed' ? 'Write again' : label}
            </Button>
          </>
        )
      }
    >
      {state.is === 'asked' && (
        <div className="grid gap-3">
          <p>
            {files(picked.files.length)} will be written, one after the other in the order that the device wants, and
            read again.
          </p>
          {survey.replaced.length > 0 && (
            <div className="border-l-4 border-saffron-mark bg-saffron-tint px-3 py-2">
              <p>Replaced: {files(survey.replaced.length)} of the same name.</p>
              <Paths paths={survey.replaced} />
            </div>
          )}
          {!survey.isWhole && (
            <p className="border-l-4 border-saffron-mark bg-saffron-tint px-3 py-2">
              There are more than {files(survey.others.length + survey.replaced.length)}; what else has the name of one
              that is written is replaced too.
            </p>
          )}
          {survey.others.length > 0 && (
            <div className={`border-l-4 px-3 py-2 ${wantsNothingElse ? 'border-brick bg-brick-tint' : 'border-rule'}`}>
              <p>
                {files(survey.others.length)} {survey.others.length === 1 ? 'is' : 'are'} there besides
                {survey.hidden.length > 0 && `, ${formatCount(survey.hidden.length)} of them hidden`}. They stay.{' '}
                {wantsNothingElse && 'The sheet wants nothing else on the card: take them away, hidden ones too.'}
              </p>
              <Paths paths={survey.others} />
            </div>
          )}
        </div>
      )}
      {state.is === 'writing' && (
        <Progress value={state.count / picked.files.length} label="Writing into the folder">
          <p role="status" className="mt-2">
            {files(state.count)} of {formatCount(picked.files.length)} written and read again
          </p>
        </Progress>
      )}
      {state.is === 'done' && (
        <p role="status" className="text-pine">
          {files(picked.files.length)} written; read again, every byte is the same. Eject the card before you take it
          out.
        </p>
      )}
      {state.is === 'failed' && (
        <p role="alert" className="text-brick">
          {state.message} {files(state.count)} {state.count === 1 ? 'is' : 'are'} complete,{' '}
          {state.left === null ? 'and none is incomplete.' : `${state.left} is incomplete: delete it there.`}
        </p>
      )}
    </Modal>
  );
}
