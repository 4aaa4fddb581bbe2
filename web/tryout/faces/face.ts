import type { Circumstances, Player } from '@tambur/core';
import type { ReactNode } from 'react';
import type { ShownEntry } from '../../sound/workers/tryout-worker.ts';
import type { Performer } from '../performer.ts';

/** What a face is drawn of. */
export interface FaceProps {
  readonly entries: readonly ShownEntry[];
  /** What is particular to the device, by the keys of its face's fields. */
  readonly options: Readonly<Record<string, number | string>>;
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

export const numberOption = (options: FaceProps['options'], key: string, usual: number): number => {
  const value = Number(options[key]);
  return Number.isFinite(value) && options[key] !== undefined ? value : usual;
};
