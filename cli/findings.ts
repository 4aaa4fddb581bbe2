import type { Finding } from '@tambur/core';
import type { Output } from './output.ts';

/** A finding in one line. */
export function findingLine({ verdict, title, wanted, found, mend }: Finding): string {
  const line = `${verdict.padEnd(8)} ${title}: wanted ${wanted}, found ${found}`;
  return mend ? `${line}; mend: ${mend}` : line;
}

/** Says what was found of a file, as far as it has one of these verdicts. */
export function showFindings(output: Output, file: string, findings: readonly Finding[], verdicts: readonly string[]) {
  const shown = findings.filter(({ verdict }) => verdicts.includes(verdict));
  if (shown.length) output.words([file, ...shown.map((finding) => `  ${findingLine(finding)}`)].join('\n'));
}
