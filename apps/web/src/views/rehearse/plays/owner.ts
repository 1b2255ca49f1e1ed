import { assetAtAddress, type ProjectIndex } from '@oquel/core';

/** The id of the asset at an owner's address; null if there is none. */
export function assetOfOwner(index: ProjectIndex, owner: string): string | null {
  return assetAtAddress(index, owner)?.decl.id ?? null;
}
