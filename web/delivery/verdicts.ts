import { type Finding, worstOf } from '@tambur/core';
import type { ArtifactView } from '@tambur/server';

/** What was found of all clips that stand in a file; those of several are told apart by their numbers. */
export const findingsOf = ({ parts }: ArtifactView): readonly Finding[] =>
  parts.length === 1
    ? (parts[0]?.findings ?? [])
    : parts.flatMap(({ findings }, i) =>
        findings.map((finding) => ({ ...finding, title: `sound ${i + 1}: ${finding.title}` })),
      );

const breaks = (file: ArtifactView): boolean => worstOf(findingsOf(file)) === 'breaks';

/** "3 of 13 files break the sheet." */
export function breakingWords(artifacts: readonly ArtifactView[]): string {
  const count = artifacts.filter(breaks).length;
  if (count === 0) return 'The set as a whole breaks the sheet.';
  return `${count} of ${artifacts.length} ${artifacts.length === 1 ? 'file' : 'files'} ${count === 1 ? 'breaks' : 'break'} the sheet.`;
}

/** Files that break the sheet first, otherwise as they stand on the card. */
export const inOrderOfTrouble = (artifacts: readonly ArtifactView[]): readonly ArtifactView[] =>
  artifacts.toSorted((a, b) => Number(breaks(b)) - Number(breaks(a)));
