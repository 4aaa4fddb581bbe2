interface Props {
  readonly label: string;
  readonly value: string;
  readonly options: readonly { readonly value: string; readonly label: string }[];
  readonly onChange: (value: string) => void;
}

/** One of many. */
export function Select({ label, value, options, onChange }: Props) {
  return (
    <label className="block min-w-0">
      <span className="label">{label}</span>
      <select
        className="mt-1 w-full min-w-0 border border-rule bg-sheet px-2 py-1"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
    </label>
  );
}
