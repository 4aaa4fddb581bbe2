import {
  ESCAPES,
  freeId,
  LINE_ENDS,
  type ListFile,
  type Pack,
  ROW_FIELDS,
  TEXT_ENCODINGS,
  USUAL_LIST,
} from '@tambur/core';
import { Button } from '../ui/button.tsx';
import { TextArea, TextField } from '../ui/field.tsx';
import { Select } from '../ui/select.tsx';

const FIELDS = ROW_FIELDS.map((field) => `{${field}}`).join(' ');

const TEXTS = { 'utf-8': 'UTF-8', 'utf-16le': 'UTF-16, little-endian', 'latin-1': 'Latin-1' } as const;
const ENDS = { '\n': 'line feed', '\r\n': 'carriage return, line feed' } as const;
const KINDS = { none: 'plain text', csv: 'CSV', xml: 'XML' } as const;
const PER = { file: 'each file', place: 'each place' } as const;

const optionsOf = <T extends string>(values: readonly T[], words: Readonly<Record<T, string>>) =>
  values.map((value) => ({ value, label: words[value] }));

interface Props<T> {
  readonly files: readonly T[];
  readonly onChange: (files: readonly T[]) => void;
  /** Keys that other parts of the sheet have. */
  readonly isTaken: (key: string) => boolean;
}

/** Changes one of several files, or removes it. */
function editing<T>({ files, onChange }: Pick<Props<T>, 'files' | 'onChange'>, index: number) {
  return {
    change: (change: Partial<T>) => onChange(files.map((file, i) => (i === index ? { ...file, ...change } : file))),
    remove: () => onChange(files.filter((_, i) => i !== index)),
  };
}

/** The list files of a sheet as a form. */
export function ListFiles({ files, onChange, isTaken }: Props<ListFile>) {
  const add = () => onChange([...files, { ...USUAL_LIST, key: freeId('list', isTaken), path: 'sounds.txt' }]);
  return (
    <>
      <p className="text-sm text-graphite">A text beside the sounds. Fields for a row: {FIELDS}</p>
      {files.map((file, index) => {
        const { change, remove } = editing({ files, onChange }, index);
        return (
          <section
            key={file.key}
            aria-label={`List file ${file.path}`}
            className="mt-3 grid gap-3 border-l-4 border-hairline pl-4"
          >
            <div className="flex flex-wrap items-end gap-3">
              <TextField
                label="Path on the card"
                value={file.path}
                onChange={(event) => change({ path: event.target.value })}
              />
              <Select
                label="Text"
                value={file.text}
                options={optionsOf(TEXT_ENCODINGS, TEXTS)}
                onChange={(text) => change({ text })}
              />
              <Select
                label="Lines end with"
                value={file.lineEnd}
                options={optionsOf(LINE_ENDS, ENDS)}
                onChange={(lineEnd) => change({ lineEnd })}
              />
              <Select
                label="It is"
                value={file.escape}
                options={optionsOf(ESCAPES, KINDS)}
                onChange={(kind) => change({ escape: kind })}
              />
              <Select
                label="A row for"
                value={file.per}
                options={optionsOf(['file', 'place'] as const, PER)}
                onChange={(per) => change({ per })}
              />
              <Button onClick={remove}>Remove</Button>
            </div>
            <TextArea
              label="At the top"
              rows={2}
              value={file.header}
              onChange={(event) => change({ header: event.target.value })}
            />
            <TextArea
              label="A row"
              rows={2}
              value={file.row}
              onChange={(event) => change({ row: event.target.value })}
            />
            <TextArea
              label="At the bottom"
              rows={2}
              value={file.footer}
              onChange={(event) => change({ footer: event.target.value })}
            />
          </section>
        );
      })}
      <div className="mt-2">
        <Button onClick={add}>Add a list file</Button>
      </div>
    </>
  );
}

/** Files that hold all sounds, as a form. */
export function Packs({ files, onChange, isTaken }: Props<Pack>) {
  const add = () =>
    onChange([
      ...files,
      { key: freeId('sounds', isTaken), path: 'sounds.h', form: 'source', header: '', index: '', row: '', footer: '' },
    ]);
  return (
    <>
      <p className="text-sm text-graphite">
        Sounds as source code or JSON, one after the other in one file, instead of files of their own.
      </p>
      {files.map((file, index) => {
        const { change, remove } = editing({ files, onChange }, index);
        return (
          <section
            key={file.key}
            aria-label={`All sounds in ${file.path}`}
            className="mt-3 grid gap-3 border-l-4 border-hairline pl-4"
          >
            <div className="flex flex-wrap items-end gap-3">
              <TextField
                label="Path on the card"
                value={file.path}
                onChange={(event) => change({ path: event.target.value })}
              />
              <Button onClick={remove}>Remove</Button>
            </div>
            <TextArea
              label="Before the sounds"
              rows={2}
              value={file.header}
              onChange={(event) => change({ header: event.target.value })}
            />
            <TextArea
              label="Before the rows"
              rows={1}
              value={file.index}
              onChange={(event) => change({ index: event.target.value })}
            />
            <TextArea
              label="A row for each sound"
              rows={2}
              value={file.row}
              onChange={(event) => change({ row: event.target.value })}
            />
            <TextArea
              label="At the bottom"
              rows={2}
              value={file.footer}
              onChange={(event) => change({ footer: event.target.value })}
            />
          </section>
        );
      })}
      {files.length === 0 && (
        <div className="mt-2">
          <Button onClick={add}>Put all sounds into one file</Button>
        </div>
      )}
    </>
  );
}
