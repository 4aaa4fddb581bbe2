import { checkFile, type Facts, type Target, worstOf } from '@tambur/core';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { inspect } from '../sound/inspect.ts';
import { Button } from '../ui/button.tsx';
import { FindingsTable } from '../ui/findings-table.tsx';
import { VerdictMark } from '../ui/verdict.tsx';

interface Tried {
  readonly name: string;
  readonly facts?: Facts;
  readonly refused?: string;
}

/** Drops a file on a sheet, to see what it says of it; answers again whenever the sheet changes. */
export function TryFile({ target }: { target: Target }) {
  const [tried, setTried] = useState<Tried | null>(null);
  const read = async (file: File) => {
    setTried({ name: file.name });
    setTried({ name: file.name, ...(await inspect(file, target)) });
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: ([file]) => {
      if (!file) return;
      read(file).catch((error: unknown) => setTried({ name: file.name, refused: String(error) }));
    },
    multiple: false,
    noClick: true,
    noKeyboard: true,
  });
  const findings = tried?.facts ? checkFile(target, tried.facts, tried.name) : [];
  return (
    <section aria-label="Try a file" className="mt-5">
      <div
        {...getRootProps({
          className: `border-2 border-dashed px-4 py-3 ${isDragActive ? 'border-pine bg-pine-tint' : 'border-rule'}`,
        })}
      >
        <input {...getInputProps({ 'aria-label': 'File to try' })} />
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <p className="font-semibold">Try a file against this sheet</p>
          <p className="text-sm text-graphite">drop it here; it stays where it is</p>
          <Button className="ml-auto" onClick={open}>
            Choose a file
          </Button>
        </div>
        {tried && !tried.facts && !tried.refused && (
          <p role="status" className="mt-2 text-sm text-graphite">
            reading {tried.name} …
          </p>
        )}
        {tried?.refused && (
          <p role="alert" className="mt-2 border-l-4 border-brick bg-brick-tint px-3 py-2">
            {tried.name}: {tried.refused}
          </p>
        )}
        {tried?.facts && (
          <div className="mt-2 overflow-x-auto">
            <p role="status" className="figure flex items-baseline gap-2 font-semibold">
              {tried.name} <VerdictMark verdict={worstOf(findings)} />
            </p>
            <FindingsTable findings={findings} />
          </div>
        )}
      </div>
    </section>
  );
}
