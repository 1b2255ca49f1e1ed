import type { AssetIndex, NameKind, NameRef } from '../src/index.js';

/** A name that an asset declares. */
export function ref(kind: NameKind, asset: AssetIndex, name: string): NameRef {
  return { kind, asset: asset.decl.id, of: '', name };
}
