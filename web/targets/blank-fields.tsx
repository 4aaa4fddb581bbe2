import {
  type Blank,
  fieldOf,
  formatCount,
  InputError,
  type Target,
  type Value,
  type Values,
  withUsual,
} from '@tambur/core';
import { RotateCcw } from 'lucide-react';
import { type ReactNode, useId, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Button } from '../ui/button.tsx';
import { useDraft } from '../ui/draft.ts';
import { TextField } from '../ui/field.tsx';
import { numberIn } from '../ui/number-in.ts';

interface Props {
  /** With its blanks. */
  readonly sheet: Target;
  readonly level: Blank['level'];
  readonly values: Values;
  /** Null: as the sheet has it. */
  readonly onChange: (blank: string, value: Value | null) => void;
  /** What helps to answer, below the answer. */
  readonly helpFor?: (blank: Blank, take: (value: Value) => void) => ReactNode;
}

/** The questions of a sheet, with the answers of a job or a clip. */
export const BlankFields = ({ sheet, level, values, onChange, helpFor }: Props) =>
  sheet.blanks
    .filter((blank) => blank.level === level)
    .map((blank) => (
      <BlankField
        key={blank.id}
        sheet={sheet}
        blank={blank}
        value={values[blank.id]}
        onChange={(value) => onChange(blank.id, value)}
        helpFor={helpFor}
      />
    ));

interface BlankProps {
  readonly sheet: Target;
  readonly blank: Blank;
  readonly value: Value | undefined;
  readonly onChange: (value: Value | null) => void;
  readonly helpFor: Props['helpFor'];
}

/** What does not fit the sheet, in a sentence; null if it does. */
function trouble(sheet: Target, { id }: Blank, value: Value): string | null {
  try {
    withUsual(sheet, { [id]: value });
    return null;
  } catch (error) {
    if (error instanceof InputError) return error.message;
    throw error;
  }
}

function BlankField({ sheet, blank, value, onChange, helpFor }: BlankProps) {
  const { question, usual } = blank;
  const field = fieldOf(sheet, blank);
  const [refused, setRefused] = useState<string | null>(null);
  const why = useId();
  const take = (wanted: Value): boolean => {
    const words = trouble(sheet, blank, wanted);
    setRefused(words);
    if (words === null && wanted !== (value ?? usual)) onChange(wanted === usual ? null : wanted);
    return words === null;
  };
  const draft = useDraft(String(value ?? usual), (text) => {
    if (typeof usual === 'string') return take(text.trim()) ? text.trim() : null;
    const number = numberIn(text);
    if (number === null) setRefused(`${text} is not a number; write it in digits.`);
    return number !== null && take(number) ? String(number) : null;
  });
  const isOther = value !== undefined && value !== usual;
  return (
    <div>
      <p className="text-sm" aria-hidden>
        {question}
      </p>
      <div className="flex items-end gap-1">
        <TextField
          label={question}
          isLabelHidden
          unit={field?.unit}
          inputMode={typeof usual === 'number' ? 'decimal' : 'text'}
          className={`figure ${typeof usual === 'number' ? 'w-24' : 'w-40'}`}
          spellCheck={false}
          aria-describedby={refused ? why : undefined}
          {...draft}
        />
        {field?.unit === 'bytes' && blank.level === 'clip' && <SizeOfFile onSize={take} />}
        {isOther && (
          <Button
            kind="quiet"
            className="text-xs"
            aria-label={`${question} As usual`}
            title="As the sheet has it"
            onClick={() => onChange(null)}
          >
            <RotateCcw className="size-3" aria-hidden /> {typeof usual === 'number' ? formatCount(usual) : usual}
          </Button>
        )}
      </div>
      {helpFor?.(blank, (wanted) => void take(wanted))}
      {refused && (
        <p id={why} role="alert" className="text-sm text-brick">
          {refused}
        </p>
      )}
    </div>
  );
}

/** Takes the size of a file that is picked, or dropped on it, such as the sound that is to be replaced. */
function SizeOfFile({ onSize }: { onSize: (bytes: number) => void }) {
  const { getRootProps, getInputProps, open } = useDropzone({
    onDrop: ([file]) => file && onSize(file.size),
    multiple: false,
    noClick: true,
    noKeyboard: true,
    // It is measured here, and does not become a clip.
    noDragEventsBubbling: true,
  });
  return (
    <span {...getRootProps()}>
      <input {...getInputProps({ 'aria-label': 'The old file, for its size' })} />
      <Button kind="quiet" className="text-xs" title="Drop the old file here, or choose it" onClick={open}>
        of a file …
      </Button>
    </span>
  );
}
