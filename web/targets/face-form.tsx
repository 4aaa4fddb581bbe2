import { type Face, type FaceKind, faces } from '@tambur/core';
import { Select } from '../ui/select.tsx';
import { FieldInput } from './field-input.tsx';

interface Props {
  readonly face: Face | undefined;
  readonly onChange: (face: Face | undefined) => void;
}

const NONE = '';
const usualOf = ({ id, usual }: FaceKind): Face => ({ id, options: { ...usual } });

/** How the device is operated, and what is particular to it. */
export function FaceForm({ face, onChange }: Props) {
  const kind = faces.find(({ id }) => id === face?.id);
  return (
    <fieldset aria-label="Face" className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-2">
      <div className="w-56">
        <Select
          label="Operated by"
          value={face?.id ?? NONE}
          onChange={(id) => {
            const chosen = faces.find((one) => one.id === id);
            onChange(chosen && usualOf(chosen));
          }}
          options={[
            { value: NONE, label: 'not known' },
            ...faces.map(({ id, title }) => ({ value: id, label: title })),
          ]}
        />
      </div>
      {face &&
        kind?.fields.map((field) => (
          <FieldInput
            key={field.key}
            field={field}
            value={face.options[field.key]}
            onChange={(value) => onChange({ ...face, options: { ...face.options, [field.key]: value as number } })}
          />
        ))}
    </fieldset>
  );
}
