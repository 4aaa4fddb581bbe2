import { type Face, type FaceKind, type FaceOptions, faces, usualIn } from '@tambur/core';
import { Select } from '../ui/select.tsx';
import { FormEntries } from './form-entries.tsx';

interface Props {
  readonly face: Face | undefined;
  readonly onChange: (face: Face | undefined) => void;
}

const NONE = '';
const usualOf = ({ id, schema }: FaceKind): Face => ({ id, options: usualIn(schema) });

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
      {face && kind && (
        <FormEntries
          schema={kind.schema}
          value={face.options}
          onChange={(options) => onChange({ ...face, options: options as FaceOptions })}
        />
      )}
    </fieldset>
  );
}
