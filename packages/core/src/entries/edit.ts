/** Changes of a document: made, taken back, compared, renamed, declared, merged. */
export {
  askableByAll,
  mutingAll,
  planBulk,
  type BulkChange,
  type BulkPlan,
  type BulkStep,
  type Row,
} from '../bulk/bulk.js';
export {
  changeFields,
  changeItems,
  mergeEntries,
  arrangeDeclaration,
  moveEntry,
  nameOfEntry,
  noteEntry,
  retireEntry,
  type EntryRef,
} from '../catalogue/edits.js';
export { catalogueOf } from '../catalogue/entries.js';
export {
  CATALOGUE_KINDS,
  CATALOGUE_MARKS,
  type CatalogueEntry,
  type CatalogueKind,
  type CatalogueMark,
  type CatalogueUse,
} from '../catalogue/entry.js';
export { usesOfEntry } from '../catalogue/uses.js';
export { changesBetween } from '../compare/changes.js';
export {
  compareProjects,
  withLaterNames,
  type Difference,
  type DifferenceCounts,
  type DifferenceGroup,
  type DifferenceHow,
  type DifferenceLine,
  type DifferenceOf,
} from '../compare/compare.js';
export { conflictVersions, type ConflictVersion } from '../compare/conflict-versions.js';
export { declareFor, type Declared } from '../declare/declare.js';
export { isMisspelt } from '../declare/misspelt.js';
export { needKey, type Need, type NeedKind, type Wish, type Wishes } from '../declare/needs.js';
export { needsText, readNote, type Note, type NoteAsk, type NoteLine } from '../declare/note.js';
export { applyChanges, ChangeApplier, type Applied } from '../edit/apply.js';
export { changesGate } from '../edit/authority.js';
export { changeJsonSchema, readChangeSet } from '../edit/change-shape.js';
export {
  ASSET_PARTS,
  PROJECT_PARTS,
  type AssetChange,
  type AssetPart,
  type Change,
  type ChangeSet,
  type ItemChange,
  type ListItems,
  type ListName,
  type PartChange,
  type ProjectPart,
} from '../edit/change.js';
export { EditRefused } from '../edit/check-change.js';
export { asItsAsset, differencesOf, differs, muting, type Differences } from '../edit/differences.js';
export { oneForEachValue } from '../edit/for-each-value.js';
export { withInside } from '../edit/inside.js';
export {
  bindingsNaming,
  duplicationOf,
  freePlacementId,
  holdersOf,
  metres,
  placementStem,
  removalOf,
  placementEditsOf,
  type Duplication,
} from '../edit/placement-edits.js';
export { overlap, touches } from '../edit/touches.js';
export {
  assetAtPath,
  bindingsOf,
  commonActions,
  freeBindingId,
  loadedTogether,
  meetingOn,
  reachableFrom,
  wiredActions,
  type ChannelUse,
  type Reachable,
  type Together,
  assetAtAddress,
} from '../edit/wiring.js';
export { withoutMarks } from '../manifest/marks.js';
export { dangling, mergeText } from '../manifest/merge-text.js';
export { mergeManifest, MergeRefused, type Merged } from '../manifest/merge.js';
export { isManifestText, readManifestText, type ReadManifest } from '../manifest/read-manifest.js';
export { redeclare } from '../rename/redeclare.js';
export { nameFault, namesLike, renameName } from '../rename/rename.js';
