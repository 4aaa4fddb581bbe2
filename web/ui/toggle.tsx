import { Field, Label, Switch } from '@headlessui/react';
import type { ReactNode } from 'react';

interface Props {
  readonly label: ReactNode;
  readonly value: boolean;
  readonly onChange: (value: boolean) => void;
}

/** On or off: a square that is filled when on. */
export function Toggle({ label, value, onChange }: Props) {
  return (
    <Field className="flex items-center gap-2">
      <Switch
        checked={value}
        onChange={onChange}
        className="group flex h-5 w-9 shrink-0 cursor-pointer items-center border border-rule bg-sheet p-0.5 data-checked:border-pine data-checked:bg-pine-tint data-focus:outline-2 data-focus:outline-offset-2 data-focus:outline-pine"
      >
        <span className="size-3.5 bg-graphite transition-transform group-data-checked:translate-x-4 group-data-checked:bg-pine motion-reduce:transition-none" />
      </Switch>
      <Label className="cursor-pointer">{label}</Label>
    </Field>
  );
}
