import { type Blank, formFields, freeId, kindOf, type Target, type Value } from '@tambur/core';
import { Trash2 } from 'lucide-react';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/field.tsx';
import { Select } from '../ui/select.tsx';
import { Toggle } from '../ui/toggle.tsx';

/** An entry of a requirement that can be asked for: a number or a text. */
interface Entry {
  readonly at: Blank['at'][number];
  readonly label: string;
  readonly value: Value;
}

function entriesOf({ requirements }: Pick<Target, 'requirements'>): Entry[] {
  return requirements.flatMap((requirement) => {
    const { title, schema } = kindOf(requirement);
    const values = requirement as unknown as Readonly<Record<string, unknown>>;
    return formFields(schema).flatMap(({ key, label }) => {
      const value = values[key];
      const isAsked = typeof value === 'number' || typeof value === 'string';
      return isAsked ? [{ at: { key: requirement.key, pointer: `/${key}` }, label: `${title}: ${label}`, value }] : [];
    });
  });
}

const isAt =
  ({ key, pointer }: Entry['at']) =>
  (entry: Entry) =>
    entry.at.key === key && entry.at.pointer === pointer;

/** The questions of a sheet, with what stands in their places as the usual answer; without those whose places have gone. */
export function withUsualInPlace(sheet: Target): Blank[] {
  const entries = entriesOf(sheet);
  return sheet.blanks.flatMap((blank) => {
    const [first] = blank.at;
    const entry = first && entries.find(isAt(first));
    if (entry) return [{ ...blank, usual: entry.value }];
    const isRequirement = blank.at.some(({ key }) => !Object.hasOwn(sheet.player, key) && key !== 'places');
    return isRequirement ? [] : [blank];
  });
}

interface Props {
  readonly sheet: Target;
  readonly blanks: readonly Blank[];
  readonly onChange: (blanks: readonly Blank[]) => void;
}

/** What a sheet asks of a job or a clip, as a form. */
export function BlankList({ sheet, blanks, onChange }: Props) {
  const entries = entriesOf(sheet);
  const isAsked = (entry: Entry) => blanks.some(({ at }) => at.some((place) => isAt(place)(entry)));
  const free = entries.filter((entry) => !isAsked(entry));
  const replace = (index: number, change: Partial<Blank>) =>
    onChange(blanks.map((blank, i) => (i === index ? { ...blank, ...change } : blank)));
  const add = (label: string) => {
    const entry = free.find((each) => each.label === label);
    if (!entry) return;
    const id = freeId(entry.at.key, (wished) => blanks.some((blank) => blank.id === wished));
    onChange([...blanks, { id, question: `${entry.label}?`, level: 'job', usual: entry.value, at: [entry.at] }]);
  };
  return (
    <>
      <ol className="mt-2 divide-y divide-hairline border-y border-hairline empty:hidden">
        {blanks.map((blank, index) => (
          <li key={blank.id} className="py-2.5">
            <div className="flex items-center gap-2">
              <p className="min-w-0 flex-1 truncate text-sm text-graphite">
                {entries.find((entry) => blank.at.some((place) => isAt(place)(entry)))?.label ?? blank.at[0]?.key}
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
