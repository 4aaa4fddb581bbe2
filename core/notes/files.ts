import { filesByClip, type PlannedFile, plannedFiles } from '../delivery/index.ts';
import type { Artifact, ClipDoc, DeliveryRecord } from '../documents/index.ts';
import { folderIn, nameIn } from '../standin/index.ts';

/** A sound of a delivery, with the file in which it stands. */
export interface DeliveredSound {
  readonly clip: ClipDoc;
  readonly artifact: Artifact;
  readonly part: Artifact['parts'][number];
  /** Numbers of the places that it plays at. */
  readonly slots: readonly number[];
}

export const stemIn = (path: string) => nameIn(path).replace(/\.[^.]*$/, '');

/** The sounds of a delivery in the order of its files. */
export function soundsOf({ job, sheet, artifacts }: DeliveryRecord): readonly DeliveredSound[] {
  const clips = new Map(job.clips.map((clip) => [clip.id, clip]));
  const planned = filesByClip(plannedFiles(job.clips, job.places, sheet));
  // Where a sound stands in a file with others, that file's name says nothing of it.
  const isOf = (file: PlannedFile, artifact: Artifact) =>
    artifact.role === 'pack' || file.stem === stemIn(artifact.path);
  return artifacts.flatMap((artifact) =>
    artifact.parts.flatMap((part) => {
      const clip = clips.get(part.clip);
      const slots = planned.get(part.clip)?.find((file) => isOf(file, artifact))?.slots ?? [];
      return clip ? [{ clip, artifact, part, slots }] : [];
    }),
  );
}

/** Folders of the card that hold files of the delivery, '' for its top. */
export const foldersOf = ({ artifacts }: DeliveryRecord): readonly string[] => [
  ...new Set(artifacts.map(({ path }) => folderIn(path))),
];
