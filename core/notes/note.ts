import type { DeliveryRecord } from '../documents/index.ts';

/** The files of a delivery. */
export type Delivered = { readonly artifacts: readonly Pick<DeliveryRecord['artifacts'][number], 'parts'>[] };

/** A text that goes with a delivery: made of its record, whenever it is wanted. */
export interface Note {
  readonly id: string;
  readonly title: string;
  readonly path: string;
  /** True if it says something of such a delivery. */
  suits(record: Delivered): boolean;
  text(record: DeliveryRecord): string;
}
