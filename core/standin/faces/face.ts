import type * as v from 'valibot';

/** What is particular to one device, by the keys of its face's schema. */
export type FaceOptions = Readonly<Record<string, number | undefined>>;

/** How a class of device is operated in Try-out. */
export interface FaceKind {
  /** Stable name: in sheets. */
  readonly id: string;
  readonly title: string;
  /** What one does with it, in a sentence. */
  readonly about: string;
  /** What a sheet may say; what is usual in it counts where a sheet says nothing. */
  readonly schema: v.GenericSchema<FaceOptions>;
}
