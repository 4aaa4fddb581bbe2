import { kindOf, type Requirement, requirementSchema, requirementText } from '@tambur/core';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import * as v from 'valibot';
import { Button } from '../ui/button.tsx';
import { Select } from '../ui/select.tsx';
import { Toggle } from '../ui/toggle.tsx';
import { ClockHelper } from './clock-helper.tsx';
import { FormEntries } from './form-entries.tsx';

interface RowProps {
  readonly requirement: Requirement;
  /** Requirements of the sheet whose place it may take. */
  readonly places?: readonly Requirement[] | undefined;
  readonly newKey: (kind: string) => string;
  /** Left out of what follows from the player: it is changed there. */
  readonly onChange?: (requirement: Requirement) => void;
  readonly onRemove?: () => void;
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

/** A requirement with the sentence that it comes to, and its form if it is written. */
export function RequirementRow({ requirement, places, newKey, onChange, onRemove }: RowProps) {
  const kind = kindOf(requirement);
  const [asksClock, setAsksClock] = useState(false);
  const { text, isWrong } = sentenceOf(requirement);
  return (
    <div>
      <div className="flex items-baseline gap-2">
        <p className={`min-w-0 flex-1 first-letter:uppercase ${isWrong ? 'text-brick' : 'font-medium'}`}>{text}</p>
        {onRemove && (
          <Button kind="quiet" aria-label={`Remove ${kind.title}`} onClick={onRemove}>
            <Trash2 className="size-4" aria-hidden />
          </Button>
        )}
      </div>
      {onChange && (
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
      )}
      {asksClock && onChange && (
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
    </div>
  );
}
