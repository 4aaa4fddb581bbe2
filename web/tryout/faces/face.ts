import type { Circumstances, FaceOptions, Player } from '@tambur/core';
import type { ReactNode } from 'react';
import type { ShownEntry } from '../../sound/workers/tryout-worker.ts';
import type { Performer } from '../performer.ts';

/** What a face is drawn of. */
export interface FaceProps {
  readonly entries: readonly ShownEntry[];
  /** What is particular to the device, and what is usual in all else. */
  readonly options: FaceOptions;
  /** What the device does. */
  readonly device: Player;
  /** Folders of the card that the device could look in: its languages. */
  readonly folders: readonly string[];
  readonly onFolder: (folder: string) => void;
  readonly performer: Performer;
  /** Path of the entry that plays. */
  readonly playing: string | null;
  /** What is going on around the device. */
  readonly around: Partial<Circumstances>;
  readonly onAround: (around: Partial<Circumstances>) => void;
  /** Which entry is at which place; where nobody has put one, they follow each other. */
  readonly places: ReadonlyMap<number, string>;
  /** What places are called that have a name, by their numbers. */
  readonly labels: Readonly<Record<string, string>>;
  readonly onPlace: (place: number, path: string | null) => void;
}

export type Face = (props: FaceProps) => ReactNode;

/** @throws Error for a key that the face has no usual value for */
export function optionOf(options: FaceOptions, key: string): number {
  const value = options[key];
  if (value === undefined) throw new Error(`the face has no option "${key}"`);
  return value;
}
