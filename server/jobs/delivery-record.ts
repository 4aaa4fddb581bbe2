import type { DeliveryRecord } from '@tambur/core';
import { ArtifactRow, type Delivery } from '../models/index.ts';

/** The files of a delivery in their order. */
export const artifactsOf = (deliveryId: string): Promise<ArtifactRow[]> =>
  ArtifactRow.findAll({ where: { deliveryId }, order: [['position', 'ASC']] });

/** The record of a delivery with its files, as an export has it. */
export async function recordWithFiles({ id, record }: Delivery): Promise<DeliveryRecord> {
  const artifacts = (await artifactsOf(id)).map(({ path, role, bytes, sha256, madeOf, parts }) => ({
    ...{ path, role, bytes, sha256, madeOf, parts },
  }));
  return { ...record, artifacts };
}
