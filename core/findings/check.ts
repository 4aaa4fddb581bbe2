import type { RenderReport } from '../chain/index.ts';
import type { Facts } from '../facts/index.ts';
import {
  type Answer,
  type Asking,
  askedBy,
  kindOf,
  type Requirement,
  ratesOf,
  type SetSubject,
  type Subject,
} from '../targets/index.ts';
import { formatCount, formatDb } from '../words/index.ts';

export type Verdict = 'meets' | 'breaks' | 'advises' | 'unknown';

/** One requirement checked against one file, or against the whole set. */
export interface Finding {
  /** The requirement's key in the sheet; its kind where it is none of a sheet. */
  readonly key: string;
  /** Which kind of requirement; `headroom` and `places` are none, but every sound needs them. */
  readonly requirement: Requirement['kind'] | 'headroom' | 'places';
  readonly title: string;
  readonly verdict: Verdict;
  readonly wanted: string;
  readonly found: string;
  /** What to do; empty if nothing is to be done. */
  readonly mend: string;
}

function findingOf(requirement: Requirement, answer: Answer): Finding {
  const kind = kindOf(requirement);
  const failed = requirement.advised ? 'advises' : 'breaks';
  const verdict = answer.meets === null ? 'unknown' : answer.meets ? 'meets' : failed;
  return {
    key: requirement.key,
    requirement: requirement.kind,
    title: kind.title,
    verdict,
    wanted: kind.wanted(requirement),
    found: answer.found,
    mend: verdict === failed ? (answer.mend ?? '') : '',
  };
}

/** A file against every requirement of the sheet that speaks of single files. */
export const checkFile = (
  target: Asking,
  facts: Facts,
  fileName: string,
  more: Pick<Subject, 'folder' | 'sourceTags'> = {},
): Finding[] => {
  const subject = {
    ...more,
    facts,
    fileName,
    canBeSlower: ratesOf(target).least < Math.floor(facts.sampleRate),
    takesArrays: askedBy(target).some(({ kind }) => kind === 'array'),
  };
  return askedBy(target).flatMap((requirement) => {
    const kind = kindOf(requirement);
    return kind.scope === 'file' ? [findingOf(requirement, kind.check(requirement, subject))] : [];
  });
};

/** Those findings on a piece of a sound that also hold for the whole. */
export const heldByPiece = (target: Asking, findings: readonly Finding[]): Finding[] => {
  const ofWhole = new Set(
    askedBy(target).flatMap((requirement) => {
      const kind = kindOf(requirement);
      return kind.scope === 'set' || kind.isOfWhole ? [requirement.key] : [];
    }),
  );
  return findings.filter(({ key }) => !ofWhole.has(key));
};

/** All files of a job against the requirements that speak of the set. */
export const checkSet = (target: Asking, set: Pick<SetSubject, 'members' | 'others'>): Finding[] => {
  const { least, most } = ratesOf(target);
  const subject = { ...set, canBeSlower: least < most };
  return askedBy(target).flatMap((requirement) => {
    const kind = kindOf(requirement);
    return kind.scope === 'set' ? [findingOf(requirement, kind.check(requirement, subject))] : [];
  });
};

/** What making the file cost: frames that exceeded full scale and were flattened. Nothing if none were. */
export const checkReport = ({ clippedFrames, headroomDb }: RenderReport): Finding[] =>
  clippedFrames === 0
    ? []
    : [
        {
          key: 'headroom',
          requirement: 'headroom',
          title: 'headroom',
          verdict: 'advises',
          wanted: 'no flattened frames',
          found: `${formatCount(clippedFrames)} ${clippedFrames === 1 ? 'frame' : 'frames'} flattened`,
          mend: `lower the gain by ${formatDb(Math.max(0.1, -(headroomDb ?? 0)), 'dB')}, or use the limiter`,
        },
      ];

/** The gravest verdict of all; `meets` if there is none. */
export function worstOf(findings: readonly Finding[]): Verdict {
  const order: readonly Verdict[] = ['breaks', 'advises', 'unknown', 'meets'];
  return order.find((verdict) => findings.some((finding) => finding.verdict === verdict)) ?? 'meets';
}
