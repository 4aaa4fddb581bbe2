import type { Finding } from '@tambur/core';
import { VerdictMark } from './verdict.tsx';

/** Each requirement with what was wanted and found, the answer, and the mend. */
export function FindingsTable({ findings }: { readonly findings: readonly Finding[] }) {
  return (
    <table className="mt-1 w-full max-w-3xl text-left text-sm">
      <thead className="label">
        <tr>
          <th className="py-1 pr-3">requirement</th>
          <th className="pr-3">wanted</th>
          <th className="pr-3">found</th>
          <th>verdict</th>
        </tr>
      </thead>
      <tbody>
        {findings.map(({ title, wanted, found, verdict, mend }) => (
          <tr key={`${title} ${wanted}`} className="border-t border-hairline align-baseline">
            <td className="py-1 pr-3">{title}</td>
            <td className="figure pr-3">{wanted}</td>
            <td className="figure pr-3 break-words">{found}</td>
            <td>
              <VerdictMark verdict={verdict} /> {mend && <span>mend: {mend}</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
