/** The document: reading and writing it, its names, instances and graph. */
export { expand } from '../expand/expand.js';
export { Expansion } from '../expand/expansion.js';
export { positionOf } from '../expand/position.js';
export { BLOCKED, MISSING, resolveByText } from '../expand/resolve.js';
export { ProjectTooLarge } from '../expand/too-large.js';
export { initialValue } from '../expand/values.js';
export { buildGraph } from '../graph/build.js';
export { chainText } from '../graph/chain-parts.js';
export { stronglyConnected } from '../graph/components.js';
export * from '../graph/graph.js';
export { selectedNow, type SelectedNow } from '../graph/selected.js';
export { LIMITS } from '../limits.js';
export { type NameKind, type NameRef } from '../names/name.js';
export { countUses, usesOfName, type BindingUse, type NameUses, type PlacementUse } from '../names/uses.js';
export { areaContains } from '../geometry/area.js';
export { staysInside, wayLength, type Stay } from '../geometry/crossing.js';
export { freePlace } from '../geometry/free-place.js';
export { sightLines, type SightEnd, type SightLine } from '../geometry/sight-lines.js';
export { rotateArea, rotatePoint } from '../geometry/rotate.js';
export {
  argFault,
  argFaultText,
  literalFault,
  literalType,
  typeFits,
  type ArgFault,
  type ArgScope,
} from '../project/arg-types.js';
export { byCodeUnits, canonicalJson, canonicalParts } from '../project/canonical.js';
export { causeText } from '../project/cause-text.js';
export {
  asksOrder,
  conditionFaults,
  hasConditions,
  holds,
  type ConditionFault,
} from '../project/condition.js';
export { PROJECT_FILE, fromFolder, toFolder } from '../project/folder.js';
export {
  indexProject,
  reindexProject,
  type AssetIndex,
  type ProjectIndex,
} from '../project/index-project.js';
export { assetInside } from '../project/inside.js';
export { isIsoDate } from '../project/iso-date.js';
export { placesIn, type Region } from '../project/json-places.js';
export { manifestJsonSchema, projectJsonSchema } from '../project/json-schema.js';
export { jsonDepthFault } from '../project/json-text.js';
export { scenesLoadedWith } from '../project/load-sets.js';
export { markOf, monograms } from '../project/mark-of.js';
export { MARKS, type Mark } from '../project/marks.js';
export { patternFault } from '../project/name-pattern.js';
export { isName } from '../project/name.js';
export { parsePath } from '../project/path.js';
export {
  fittedBackdrop,
  MOST_PICTURE_BYTES,
  MOST_PICTURES,
  PICTURE_NAME,
  pictureKind,
  PICTURES_FOLDER,
  picturesOf,
  pictureType,
  scaledBackdrop,
  type PictureKind,
} from '../project/pictures.js';
export { BrokenDocument, problemText, type Problem } from '../project/problem.js';
export { readProject, readProjectText, type ReadResult } from '../project/read.js';
export { defaultOfType, valuesOfType } from '../project/type-values.js';
export { nameFromText, type NamedKind } from '../project/typed-name.js';
export * from '../project/types.js';
export { isLiteral, sameValue, valueKey } from '../project/value.js';
export { append } from '../util/append.js';
export { firstNotBefore } from '../util/lower-bound.js';
export { own, put } from '../util/own.js';
export { asPart, finish, type WorkStep } from '../util/steps.js';
export { OquelError, type ErrorCode } from '../util/oquel-error.js';
