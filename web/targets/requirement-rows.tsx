import {
  type AskedRow,
  type AskingParts,
  askedRows,
  choiceMade,
  freeId,
  kindOf,
  newRequirement,
  otherwiseChoices,
  type Requirement,
  requirementKinds,
  requirementText,
  traitsOf,
  withOtherwise,
  withoutOtherwise,
} from '@tambur/core';
import { useRef } from 'react';
import { Select } from '../ui/select.tsx';
import { FormEntries } from './form-entries.tsx';
import { RequirementRow } from './requirement-row.tsx';

interface Props {
  readonly parts: AskingParts;
  readonly onChange: (parts: AskingParts) => void;
  /** In a variant: what the sheet itself asks, of which each may take the place of one. */
  readonly instead?: readonly Requirement[];
}

/** What a device takes, and what it does with anything else: a row for each subject. */
export function RequirementRows({ parts, onChange, instead }: Props) {
  const rows = askedRows(parts);
  const list = useRef<HTMLOListElement>(null);
  const isTaken = (key: string) => parts.requirements.some((entry) => entry.key === key);
  const newKey = (kind: string) => freeId(kind, (id) => isTaken(id) || instead?.some(({ key }) => key === id) === true);
  /** In the place of the sheet's own of that kind, or under a name that nothing has. */
  const keyFor = (kind: string) =>
    instead?.find((entry) => entry.kind === kind && !isTaken(entry.key))?.key ?? newKey(kind);
  const add = (kind: string) => {
    const added = requirementKinds.find((entry) => entry.kind === kind);
    if (!added) return;
    onChange({ ...parts, requirements: [...parts.requirements, newRequirement(added, keyFor(kind))] });
    // What is asked of the new one comes next; its row is there after the page is drawn.
    requestAnimationFrame(() =>
      list.current?.querySelector<HTMLElement>(`[data-kind="${kind}"] :is(input, [aria-haspopup])`)?.focus(),
    );
  };
  const set = (key: string, next: Requirement | null) =>
    onChange({
      ...parts,
      requirements: parts.requirements.flatMap((entry) => (entry.key === key ? (next ? [next] : []) : [entry])),
    });
  const rowOf = (row: AskedRow) => (asked: Requirement) => {
    if (!row.written.includes(asked)) return <RequirementRow key={asked.key} requirement={asked} newKey={newKey} />;
    return (
      <RequirementRow
        key={asked.key}
        requirement={asked}
        places={instead?.filter(({ key }) => key === asked.key || !isTaken(key))}
        newKey={newKey}
        onChange={(next) => set(asked.key, next)}
        onRemove={() => set(asked.key, null)}
      />
    );
  };
  return (
    <>
      <ol ref={list} className="mt-2 divide-y divide-hairline border-y border-ink empty:hidden">
        {rows.map((row, i) => (
          <li key={row.kind} data-kind={row.kind} className="py-2.5">
            {row.asked.length === 0 && (
              <p className="text-brick first-letter:uppercase">{titleOf(row)}: not complete</p>
            )}
            {row.asked.filter(({ advised }) => !advised).map(rowOf(row))}
            {/* It stays where it is whatever is chosen, and so does where the keys go. */}
            <div className="mt-1 flex flex-wrap items-end gap-x-6 gap-y-2 text-sm empty:hidden">
              <Traits row={row} before={rows.slice(0, i)} parts={parts} onChange={onChange} />
              <Otherwise row={row} parts={parts} onChange={onChange} />
            </div>
            {row.asked.filter(({ advised }) => advised).map(rowOf(row))}
          </li>
        ))}
      </ol>
      <div className="mt-2 max-w-xs text-sm">
        <Select
          label="Add a requirement"
          isLabelHidden
          value={null}
          placeholder="Add a requirement …"
          options={requirementKinds.map(({ kind, title }) => ({ value: kind, label: title }))}
          onChange={add}
        />
      </div>
    </>
  );
}

const titleOf = ({ kind }: AskedRow) => requirementKinds.find((entry) => entry.kind === kind)?.title ?? kind;

interface RowProps {
  readonly row: AskedRow;
  readonly parts: AskingParts;
  readonly onChange: (parts: AskingParts) => void;
}

const mustOf = ({ asked }: AskedRow) => asked.find(({ advised }) => !advised);

const choicesOf = (row: AskedRow, { player }: AskingParts) => {
  const asked = mustOf(row);
  return asked ? otherwiseChoices(asked, player) : [];
};

/** The traits from which a row follows, each with its form at the first row that follows from it. */
function Traits({ row, before, parts, onChange }: RowProps & { readonly before: readonly AskedRow[] }) {
  const made = choiceMade(choicesOf(row, parts), parts.player);
  const values = parts.player as Readonly<Record<string, unknown>>;
  return traitsOf(parts.player)
    .filter(({ trait }) => row.traits.includes(trait.id))
    .map(({ trait: { id, title, schema, otherwise = [] } }) => {
      const earlier = before.find(({ traits }) => traits.includes(id));
      if (earlier) {
        return (
          <p key={id} className="basis-full text-graphite">
            Follows from what is said at {titleOf(earlier)}.
          </p>
        );
      }
      const decided = otherwise.flatMap(({ kind, decides }) => (made && kind === row.kind ? [decides] : []));
      return (
        <fieldset key={id} aria-label={title} className="flex min-w-0 flex-wrap items-end gap-x-6 gap-y-2 empty:hidden">
          <FormEntries
            schema={schema}
            value={values[id]}
            isLeftOut={(key) => decided.includes(key)}
            onChange={(changed) => onChange({ ...parts, player: { ...parts.player, [id]: changed ?? '' } })}
          />
        </fieldset>
      );
    });
}

/** Stand for what is no choice: nothing is known, or the traits say something of their own. */
const UNKNOWN = 'unknown';
const AS_SET = 'as-set';

/** What the device does with a file that does not meet what is asked. */
function Otherwise({ row, parts, onChange }: RowProps) {
  const asked = mustOf(row);
  if (!asked) return null;
  const choices = choicesOf(row, parts);
  const made = choiceMade(choices, parts.player);
  const isOwn = made === null && row.traits.length > 0;
  // What follows from how it reads at all has no answer of its own.
  if (choices.length === 0 || (isOwn && !row.isAnswered)) return null;
  return (
    <fieldset aria-label={kindOf(asked).title} className="w-72 min-w-0 text-sm">
      <Select
        label="With anything else it"
        value={made?.id ?? (isOwn ? AS_SET : UNKNOWN)}
        options={[
          { value: UNKNOWN, label: 'does what is not known' },
          ...(isOwn ? [{ value: AS_SET, label: 'does what is said here' }] : []),
          ...choices.map(({ id, words }) => ({ value: id, label: words })),
        ]}
        onChange={(id) => {
          const choice = choices.find((entry) => entry.id === id);
          if (choice) onChange(withOtherwise(parts, asked, choice));
          else if (id === UNKNOWN) onChange(withoutOtherwise(parts, row.kind));
        }}
      />
    </fieldset>
  );
}

/** What follows from the player of a sheet and is not asked, as it was not before: each can be asked for. */
export function NotAsked({
  without,
  following,
  onChange,
}: {
  readonly without: readonly string[];
  readonly following: readonly Requirement[];
  readonly onChange: (without: readonly string[]) => void;
}) {
  return following
    .filter(({ key }) => without.includes(key))
    .map((requirement) => (
      <p key={requirement.key} className="mt-2 text-sm">
        Its player needs {requirementText(requirement)}, and the sheet does not ask for that.{' '}
        <button
          type="button"
          className="underline underline-offset-2"
          onClick={() => onChange(without.filter((key) => key !== requirement.key))}
        >
          Ask for it
        </button>
      </p>
    ));
}
