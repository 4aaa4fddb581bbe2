import { relative, sep } from 'node:path';
import {
  type Artifact,
  CORE_VERSION,
  type DeliveryRecord,
  type Finding,
  partsIn,
  type SetFile,
  sourceOf,
} from '@tambur/core';
import { sha256Of, sha256OfFile } from '@tambur/disk';
import type { FileOfClip, SetOrder } from './set-order.ts';

/** What was made of a set. */
export interface MadeSet {
  /** The folder that holds it all. */
  readonly out: string;
  readonly sounds: readonly FileOfClip[];
  readonly beside: readonly SetFile[];
  /** What is said of the set as a whole. */
  readonly findings: readonly Finding[];
}

const partOf = ({ clip, facts, report, findings }: FileOfClip): Artifact['parts'][number] => ({
  clip: clip.id,
  offset: 0,
  length: facts.bytes,
  facts,
  report,
  findings: [...findings],
});

/** The record of a set, as a delivery has one: its sources and its files are read once more for their hashes. */
export async function recordOf({ job, sheet }: SetOrder, made: MadeSet): Promise<DeliveryRecord> {
  const { out, sounds, beside, findings } = made;
  const parts = sounds.map(partOf);
  const artifacts: Artifact[] = [];
  // What stands in a pack has no file of its own.
  for (const [i, { file, facts }] of beside.some(({ role }) => role === 'pack') ? [] : [...sounds.entries()]) {
    const path = relative(out, file).split(sep).join('/');
    const of = parts.slice(i, i + 1);
    artifacts.push({
      path,
      role: 'sound',
      bytes: facts.bytes,
      sha256: await sha256OfFile(file),
      madeOf: '',
      parts: of,
    });
  }
  for (const file of beside) {
    const { path, role, bytes } = file;
    const sha256 = sha256Of(bytes);
    artifacts.push({ path, role, bytes: bytes.length, sha256, madeOf: '', parts: partsIn(file, parts) });
  }
  const sources: DeliveryRecord['sources'] = {};
  for (const { clip, source, sourceFacts } of sounds) {
    const { track } = sourceFacts;
    sources[sourceOf(clip)] ??= { sha256: await sha256OfFile(source), reading: null, track, facts: sourceFacts };
  }
  return { format: 2, id: '', core: CORE_VERSION, job, sheet, sources, artifacts, findings: [...findings] };
}
