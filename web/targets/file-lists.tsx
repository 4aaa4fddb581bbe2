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
import type { ReactNode } from 'react';
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

interface FileFormProps<T> {
  readonly files: readonly T[];
  readonly index: number;
  readonly onChange: (files: readonly T[]) => void;
  /** What the section is called, before the path. */
  readonly title: string;
  /** The file's texts in their order, with their labels. */
  readonly texts: readonly (readonly [keyof T & string, string])[];
  /** What there is to choose beside the path. */
  readonly choices?: (file: T, change: (change: Partial<T>) => void) => ReactNode;
}

/** One of several files: its path, what there is to choose, its texts, and a way to be rid of it. */
function FileForm<T extends { readonly path: string }>({
  files,
  index,
  onChange,
  title,
  texts,
  choices,
}: FileFormProps<T>) {
  const file = files[index];
  if (!file) return null;
  const change = (part: Partial<T>) => onChange(files.map((other, i) => (i === index ? { ...other, ...part } : other)));
  return (
    <section aria-label={`${title} ${file.path}`} className="mt-3 grid gap-3 border-l-4 border-hairline pl-4">
      <div className="flex flex-wrap items-end gap-3">
        <TextField
          label="Path on the card"
          value={file.path}
          onChange={(event) => change({ path: event.target.value } as unknown as Partial<T>)}
        />
        {choices?.(file, change)}
        <Button onClick={() => onChange(files.filter((_, i) => i !== index))}>Remove</Button>
      </div>
      {texts.map(([key, label]) => (
        <TextArea
          key={key}
          label={label}
          rows={2}
          className="figure"
          value={String(file[key])}
          onChange={(event) => change({ [key]: event.target.value } as unknown as Partial<T>)}
        />
      ))}
    </section>
  );
}

/** The list files of a sheet as a form. */
export function ListFiles({ files, onChange, isTaken }: Props<ListFile>) {
  const add = () => onChange([...files, { ...USUAL_LIST, key: freeId('list', isTaken), path: 'sounds.txt' }]);
  return (
    <>
      <p className="text-sm text-graphite">A text beside the sounds. Fields for a row: {FIELDS}</p>
      {files.map((file, index) => (
        <FileForm
          key={file.key}
          files={files}
          index={index}
          onChange={onChange}
          title="List file"
          texts={[
            ['header', 'At the top'],
            ['row', 'A row'],
            ['footer', 'At the bottom'],
          ]}
          choices={({ text, lineEnd, escape: kind, per }, change) => (
            <>
              <Select
                label="Text"
                value={text}
                options={optionsOf(TEXT_ENCODINGS, TEXTS)}
                onChange={(value) => change({ text: value })}
              />
              <Select
                label="Lines end with"
                value={lineEnd}
                options={optionsOf(LINE_ENDS, ENDS)}
                onChange={(value) => change({ lineEnd: value })}
              />
              <Select
                label="It is"
                value={kind}
                options={optionsOf(ESCAPES, KINDS)}
                onChange={(value) => change({ escape: value })}
              />
              <Select
                label="A row for"
                value={per}
                options={optionsOf(['file', 'place'] as const, PER)}
                onChange={(value) => change({ per: value })}
              />
            </>
          )}
        />
      ))}
      <div className="mt-2">
        <Button onClick={add}>Add a list file</Button>
      </div>
    </>
  );
}

/** Files that hold all sounds, as a form. */
export function Packs({ files, onChange, isTaken }: Props<Pack>) {
  const texts = { header: '', index: '', row: '', footer: '' };
  const add = () =>
    onChange([...files, { key: freeId('sounds', isTaken), path: 'sounds.h', form: 'source', ...texts }]);
  return (
    <>
      <p className="text-sm text-graphite">
        Sounds as source code or JSON, one after the other in one file, instead of files of their own.
      </p>
      {files.map((file, index) => (
        <FileForm
          key={file.key}
          files={files}
          index={index}
          onChange={onChange}
          title="All sounds in"
          texts={[
            ['header', 'Before the sounds'],
            ['index', 'Before the rows'],
            ['row', 'A row for each sound'],
            ['footer', 'At the bottom'],
          ]}
        />
      ))}
      {files.length === 0 && (
        <div className="mt-2">
          <Button onClick={add}>Put all sounds into one file</Button>
        </div>
      )}
    </>
  );
}
