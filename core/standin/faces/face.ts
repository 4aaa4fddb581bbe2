import type { Field } from '../../audio/index.ts';

/** How a class of device is operated in Try-out. */
export interface FaceKind {
  /** Stable name: in sheets. */
  readonly id: string;
  readonly title: string;
  /** What one does with it, in a sentence. */
  readonly about: string;
  /** What is particular to one device: numbers and words, as a form asks for them. */
  readonly fields: readonly Field[];
  /** What counts where a sheet says nothing. */
  readonly usual: Readonly<Record<string, number | string>>;
}
