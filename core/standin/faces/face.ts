import type * as v from 'valibot';
import type { Field } from '../../forms/index.ts';

/** What is particular to one device, by the keys of its face's fields. */
export type FaceOptions = Readonly<Record<string, number | undefined>>;

/** How a class of device is operated in Try-out. */
export interface FaceKind {
  /** Stable name: in sheets. */
  readonly id: string;
  readonly title: string;
  /** What one does with it, in a sentence. */
  readonly about: string;
  /** What a sheet may say. */
  readonly schema: v.GenericSchema<FaceOptions>;
  /** The same, as a form asks for it. */
  readonly fields: readonly Field[];
  /** What counts where a sheet says nothing. */
  readonly usual: Readonly<Record<string, number>>;
}
