import {
  AssembleError,
  type ContactSurface,
  DecomposeError,
  type DeliveryChoices,
  type DeliveryFolders,
  type PieceDocument,
  PlanError,
  planToDeliver,
  type TargetProfile,
  writePlan,
} from '@yard-brace/core';
import { getBlob } from '../../api/get-blob';
import type { FileSize } from '../messages';
import { meshes } from './art';

/** What a delivery is made of, before it is. */
export interface ToDeliver {
  document: PieceDocument;
  profile: TargetProfile;
  choices: DeliveryChoices;
  surfaces: readonly ContactSurface[];
  folders: DeliveryFolders;
  /** what stands in its sheet of trials, a line each */
  tried: readonly string[];
}

/** How large the files of a delivery will be: they are written, and not sent. None where it cannot be delivered. */
export async function weighDelivery({
  document,
  profile,
  choices,
  surfaces,
  folders,
  tried,
}: ToDeliver): Promise<FileSize[]> {
  try {
    const plan = await planToDeliver(document, profile, choices, surfaces);
    const meshOf = await meshes.hold(document);
    const pictures = new Map<string, Uint8Array>();
    if (plan.choices.pictures !== 'left-out')
      for (const { blob } of document.pictures)
        if (!pictures.has(blob)) pictures.set(blob, await getBlob(blob));
    const files = await writePlan(
      plan,
      { meshOf, pictureOf: (id) => pictures.get(id)!, tried: [tried] },
      folders,
    );
    return files.map(({ name, bytes }) => ({ name, bytes: bytes.length }));
  } catch (error) {
    // Why it cannot be delivered stands in the waybill already.
    if (error instanceof AssembleError || error instanceof PlanError || error instanceof DecomposeError)
      return [];
    throw error;
  }
}
