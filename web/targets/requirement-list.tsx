import {
  freeId,
  kindOf,
  newRequirement,
  type Requirement,
  requirementKinds,
  requirementSchema,
  requirementText,
} from '@tambur/core';
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { useState } from 'react';
import * as v from 'valibot';
import { Button } from '../ui/button.tsx';
import { Select } from '../ui/select.tsx';
import { Toggle } from '../ui/toggle.tsx';
import { ClockHelper } from './clock-helper.tsx';
import { FormEntries } from './form-entries.tsx';

interface Props {
  readonly requirements: readonly Requirement[];
  readonly onChange: (requirements: readonly Requirement[]) => void;
  /** In a variant: what the sheet itself asks, of which each may take the place of one. */
  readonly instead?: readonly Requirement[];
}

/** The requirements of a sheet or a variant as a form, each with the sentence that it comes to. */
export function RequirementList({ requirements, onChange, instead }: Props) {
  const isTaken = (key: string) => requirements.some((entry) => entry.key === key);
  /** In the place of the sheet's own of that kind, or under a name that nothing has. */
  const keyFor = (kind: string) =>
    instead?.find((entry) => entry.kind === kind && !isTaken(entry.key))?.key ?? newKey(kind);
  const newKey = (kind: string) => freeId(kind, (id) => isTaken(id) || instead?.some(({ key }) => key === id) === true);
  const replace = (index: number, next: Requirement) =>
    onChange(requirements.map((entry, i) => (i === index ? next : entry)));
  const move = (index: number, by: number) => {
    const next = [...requirements];
    const [taken] = next.splice(index, 1);
    if (taken) next.splice(index + by, 0, taken);
    onChange(next);
  };
  return (
    <>
      <ol className="divide-y divide-hairline border-y border-ink">
        {requirements.map((requirement, index) => (
          <RequirementRow
            // biome-ignore lint/suspicious/noArrayIndexKey: two requirements may be alike, and their order is what is edited
            key={`${requirement.kind} ${index}`}
            requirement={requirement}
            places={instead?.filter(({ key }) => key === requirement.key || !isTaken(key))}
            newKey={newKey}
            onChange={(next) => replace(index, next)}
            onRemove={() => onChange(requirements.filter((_, i) => i !== index))}
            onUp={index > 0 ? () => move(index, -1) : undefined}
            onDown={index < requirements.length - 1 ? () => move(index, 1) : undefined}
          />
        ))}
      </ol>
      <div className="mt-2 max-w-xs text-sm">
        <Select
          label="Add a requirement"
          isLabelHidden
          value={null}
          placeholder="Add a requirement …"
          options={requirementKinds.map(({ kind, title }) => ({ value: kind, label: title }))}
          onChange={(kind) => {
            const added = requirementKinds.find((entry) => entry.kind === kind);
            if (added) onChange([...requirements, newRequirement(added, keyFor(kind))]);
          }}
        />
      </div>
    </>
  );
}

interface RowProps {
  readonly requirement: Requirement;
  /** Requirements of the sheet whose place it may take. */
  readonly places: readonly Requirement[] | undefined;
  readonly newKey: (kind: string) => string;
  readonly onChange: (requirement: Requirement) => void;
  readonly onRemove: () => void;
  readonly onUp: (() => void) | undefined;
  readonly onDown: (() => void) | undefined;
}

/** What a requirement comes to in words, or what is wrong with it. */
function sentenceOf(requirement: Requirement): { readonly text: string; readonly isWrong: boolean } {
  const result = v.safeParse(requirementSchema, requirement);
  const kind = kindOf(requirement);
  if (!result.success) return { text: `${kind.title}: ${result.issues[0].message}`, isWrong: true };
  const words = `${kind.title}: ${kind.wanted(result.output)}`;
  const scope = kind.scope === 'set' ? ', of the whole set' : '';
  return { text: `${words}${scope}${requirement.advised ? ' (advised)' : ''}.`, isWrong: false };
}

/** Stands for what is added to the sheet's own. */
const ADDED = '';

function RequirementRow({ requirement, places, newKey, onChange, onRemove, onUp, onDown }: RowProps) {
  const kind = kindOf(requirement);
  const [asksClock, setAsksClock] = useState(false);
  const { text, isWrong } = sentenceOf(requirement);
  return (
    <li className="py-2.5">
      <div className="flex items-baseline gap-2">
        <p className={`min-w-0 flex-1 first-letter:uppercase ${isWrong ? 'text-brick' : 'font-medium'}`}>{text}</p>
        <Button kind="quiet" aria-label={`Move ${kind.title} up`} disabled={!onUp} onClick={onUp}>
          <ArrowUp className="size-4" aria-hidden />
        </Button>
        <Button kind="quiet" aria-label={`Move ${kind.title} down`} disabled={!onDown} onClick={onDown}>
          <ArrowDown className="size-4" aria-hidden />
        </Button>
        <Button kind="quiet" aria-label={`Remove ${kind.title}`} onClick={onRemove}>
          <Trash2 className="size-4" aria-hidden />
        </Button>
      </div>
      <div className="mt-1 flex flex-wrap items-end gap-x-6 gap-y-2 text-sm">
        <FormEntries
          schema={kind.schema}
          value={requirement}
          onChange={(changed) => onChange(changed as Requirement)}
        />
        {places && (
          <Select
            label="In place of"
            value={places.some(({ key }) => key === requirement.key) ? requirement.key : ADDED}
            options={[
              { value: ADDED, label: 'nothing: it is added' },
              ...places.map((entry) => ({ value: entry.key, label: requirementText(entry) })),
            ]}
            onChange={(key) => onChange({ ...requirement, key: key === ADDED ? newKey(requirement.kind) : key })}
          />
        )}
        <Toggle
          label="only advised"
          value={requirement.advised === true}
          onChange={(advised) => {
            const { advised: _, ...rest } = requirement;
            onChange(advised ? { ...rest, advised } : rest);
          }}
        />
        {requirement.kind === 'sample-rate' && (
          <Button kind="quiet" aria-expanded={asksClock} onClick={() => setAsksClock(!asksClock)}>
            Rates of a timer …
          </Button>
        )}
      </div>
      {asksClock && (
        <div className="mt-2">
          <ClockHelper
            onPick={(exact) => {
              onChange({
                key: requirement.key,
                kind: 'sample-rate',
                anyOf: [exact],
                ...(requirement.advised ? { advised: true } : {}),
              });
              setAsksClock(false);
            }}
          />
        </div>
      )}
    </li>
  );
}
