import type { Facts } from '../facts/index.ts';
import { folderIn, nameIn } from '../standin/index.ts';
import { askedBy, isObservable, type Target } from '../targets/index.ts';
import { checkFile } from './check.ts';

type Sheet = Pick<Target, 'requirements' | 'player' | 'without'>;

/** True if a sheet asks something of which it does not say what the device does otherwise: only then files have to be read. */
export const leavesOpen = (target: Sheet): boolean =>
  askedBy(target).some((requirement) => !requirement.advised && !isObservable(target, requirement));

/**
 * Of what a file does not meet that for which the sheet does not say what the device does then: a sentence each.
 * @param isWhole true if the file is where the device has it, and not from anywhere
 */
export function notKnown(target: Sheet, facts: Facts, path: string, isWhole: boolean): readonly string[] {
  const asked = new Map(askedBy(target).map((requirement) => [requirement.key, requirement]));
  return checkFile(target, facts, nameIn(path), isWhole ? { folder: folderIn(path) } : {}).flatMap(
    ({ key, verdict, title, wanted, found }) => {
      const requirement = asked.get(key);
      if (verdict !== 'breaks' || !requirement || isObservable(target, requirement)) return [];
      return [
        `The sheet asks for ${title} ${wanted}, and this has ${found}: what the device does with that is not known.`,
      ];
    },
  );
}
