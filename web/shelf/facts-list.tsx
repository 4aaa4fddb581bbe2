import { describeFacts, type Facts, remarksOn } from '@tambur/core';

interface Props {
  readonly facts: Facts;
  /** The file's. */
  readonly name: string;
}

/** Where a file states one thing and holds another. */
export function Remarks({ facts, name }: Props) {
  return (
    <ul className="space-y-1">
      {remarksOn(facts, name).map((remark) => (
        <li key={remark} className="border-l-4 border-saffron-mark bg-saffron-tint px-2 py-1 text-sm">
          {remark}
        </li>
      ))}
    </ul>
  );
}

/** What a file is, line by line. */
export function FactsLines({ facts, name }: Props) {
  const lines = describeFacts(facts, name).filter(({ label }) => label !== 'remark');
  return (
    <dl className="text-sm">
      {lines.map(({ label, value }, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: several lines may say the same
        <div key={i} className="flex gap-3 border-b border-hairline py-1">
          <dt className="w-28 shrink-0 text-graphite">{label}</dt>
          <dd className="figure min-w-0 flex-1 break-words">{value}</dd>
        </div>
      ))}
    </dl>
  );
}
