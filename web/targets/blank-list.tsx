import type { Blank, Target } from '@tambur/core';
import { Trash2 } from 'lucide-react';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/field.tsx';
import { Select } from '../ui/select.tsx';
import { Toggle } from '../ui/toggle.tsx';
import { entriesOf, entryOf, freeEntries, withQuestion } from './questions.ts';

interface Props {
  readonly sheet: Target;
  readonly blanks: readonly Blank[];
  readonly onChange: (blanks: readonly Blank[]) => void;
}

/** What a sheet asks of a job or a clip, as a form. */
export function BlankList({ sheet, blanks, onChange }: Props) {
  const entries = entriesOf(sheet);
  const free = freeEntries(entries, blanks);
  const replace = (index: number, change: Partial<Blank>) =>
    onChange(blanks.map((blank, i) => (i === index ? { ...blank, ...change } : blank)));
  const add = (label: string) => {
    const entry = free.find((each) => each.label === label);
    if (entry) onChange(withQuestion(blanks, entry));
  };
  return (
    <>
      <ol className="mt-2 divide-y divide-hairline border-y border-hairline empty:hidden">
        {blanks.map((blank, index) => (
          <li key={blank.id} className="py-2.5">
            <div className="flex items-center gap-2">
              <p className="min-w-0 flex-1 truncate text-sm text-graphite">
                {entryOf(blank, entries)?.label ?? blank.at[0]?.key}
              </p>
              <Button
                kind="quiet"
                aria-label={`Remove the question ${blank.question}`}
                onClick={() => onChange(blanks.filter((_, i) => i !== index))}
              >
                <Trash2 className="size-4" aria-hidden />
              </Button>
            </div>
            <div className="flex flex-wrap items-end gap-x-6 gap-y-2 text-sm">
              <div className="min-w-0 flex-1">
                <TextField
                  label="Question"
                  value={blank.question}
                  maxLength={200}
                  onChange={(event) => replace(index, { question: event.target.value })}
                />
              </div>
              <Toggle
                label="of each clip"
                value={blank.level === 'clip'}
                onChange={(isOfClip) => replace(index, { level: isOfClip ? 'clip' : 'job' })}
              />
            </div>
          </li>
        ))}
      </ol>
      <div className="mt-2 max-w-xs text-sm">
        <Select
          label="Add a question"
          isLabelHidden
          value={null}
          placeholder="Add a question …"
          options={free.map(({ label }) => ({ value: label, label }))}
          onChange={add}
        />
      </div>
    </>
  );
}
