import { describeFacts, type FactLine } from '@tambur/core';
import type { ArtifactView } from '@tambur/server';

/** A file of one delivery beside that of another. */
export interface Compared {
  readonly path: string;
  readonly what: 'added' | 'gone' | 'changed' | 'same';
  /** Of the newer one less those of the older one. */
  readonly bytes: number;
  /** What is different of the sound, as it was and as it is. */
  readonly facts: readonly { readonly label: string; readonly was: string; readonly is: string }[];
}

const linesOf = (file: ArtifactView | undefined): readonly FactLine[] =>
  file?.parts.length === 1 && file.parts[0] ? describeFacts(file.parts[0].facts, file.path) : [];

/** Two deliveries, file by file, in the order of the newer one; what is gone comes last. */
export function compareDeliveries(is: readonly ArtifactView[], was: readonly ArtifactView[]): readonly Compared[] {
  const before = new Map(was.map((file) => [file.path, file]));
  const paths = new Set(is.map(({ path }) => path));
  const kept = is.map((file): Compared => {
    const old = before.get(file.path);
    if (!old) return { path: file.path, what: 'added', bytes: file.bytes, facts: [] };
    if (old.sha256 === file.sha256) return { path: file.path, what: 'same', bytes: 0, facts: [] };
    const earlier = new Map(linesOf(old).map(({ label, value }) => [label, value]));
    const facts = linesOf(file).flatMap(({ label, value }) => {
      const then = earlier.get(label) ?? 'none';
      return then === value ? [] : [{ label, was: then, is: value }];
    });
    return { path: file.path, what: 'changed', bytes: file.bytes - old.bytes, facts };
  });
  const gone = was
    .filter(({ path }) => !paths.has(path))
    .map(({ path, bytes }): Compared => ({ path, what: 'gone', bytes: -bytes, facts: [] }));
  return [...kept, ...gone];
}
