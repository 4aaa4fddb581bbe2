import type { Finding } from '@tambur/core';
import { VerdictMark } from './verdict.tsx';

/** What is said of a set as a whole, a line each. */
export function SetFindings({ findings }: { readonly findings: readonly Finding[] }) {
  return findings.map(({ key, title, wanted, found, verdict, mend }) => (
    <p key={`${key} ${title}`} className="mt-1 flex flex-wrap items-baseline gap-x-2 text-sm">
      <span className="text-graphite">{title}</span>
      <span className="figure">
        {found}, wanted {wanted}
      </span>
      <VerdictMark verdict={verdict} />
      {mend && <span>mend: {mend}</span>}
    </p>
  ));
}
