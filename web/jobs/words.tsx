/** What a sheet asks, in a line or two. */
export const Words = ({ words }: { readonly words: readonly string[] }) => (
  <ul className="mt-2 flex flex-wrap gap-x-4 gap-y-0.5 text-sm text-graphite">
    {words.map((text) => (
      <li key={text}>{text}</li>
    ))}
  </ul>
);
