interface Props {
  readonly said: readonly { readonly path: string; readonly words: string }[];
}

/** What of the files on a card the sheet does not say how the device takes it. */
export function NotKnown({ said }: Props) {
  if (said.length === 0) return null;
  return (
    <section aria-label="Not known">
      <h2 className="label">Not known</h2>
      <ul className="mt-1">
        {said.map(({ path, words }) => (
          <li key={`${path} ${words}`} className="border-b border-hairline py-1.5">
            <p className="figure truncate font-semibold" title={path}>
              {path}
            </p>
            <p className="text-sm">{words}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}
