import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Binding, Placement } from '../project/types.js';
import { nameKey, type NameRef, type NameVisitor } from './name.js';
import { walkNames } from './walk.js';

/** A binding that a name stands in. */
export interface BindingUse {
  owner: AssetIndex;
  binding: Binding;
}
export interface PlacementUse {
  owner: AssetIndex;
  placement: Placement;
}
/** Everything that a name stands in, in order of the document. */
export interface NameUses {
  bindings: BindingUse[];
  placements: PlacementUse[];
  /** Declarations, in words: `Lamp: action light`. */
  declarations: { asset: string; text: string }[];
  rehearsals: string[];
}

/** Answers one name with another and every other with itself. */
export function replacing(ref: NameRef, to: string): NameVisitor {
  const { kind, asset, of, name } = ref;
  return (k, a, o, n) => (n === name && k === kind && a === asset && o === of ? to : n);
}
/** The same for many names at once, each by its key. */
export function replacingAll(
  names: ReadonlyMap<string, string>,
  onHit: (key: string) => void = () => undefined,
): NameVisitor {
  return (kind, asset, of, name) => {
    const key = nameKey({ kind, asset, of, name });
    const to = names.get(key);
    if (to === undefined) return name;
    onHit(key);
    return to;
  };
}

/** No name of a document is like this. */
const OTHER = '\0';
/** What names something, besides its own declaration. Linear in the document. */
export function usesOfName(index: ProjectIndex, ref: NameRef): NameUses {
  return usesOfNames(index, [ref]);
}
/** What names any of several things. Linear in the document, whatever their number. */
export function usesOfNames(index: ProjectIndex, refs: readonly NameRef[]): NameUses {
  const { project } = index;
  const after = walkNames(index, replacingAll(new Map(refs.map((ref) => [nameKey(ref), OTHER]))));
  const declarations = new Set(refs.map((ref) => `${ref.asset}\n${declared(ref)}`));
  const isDeclaration = (asset: string, text: string): boolean => declarations.has(`${asset}\n${text}`);
  const uses: NameUses = { bindings: [], placements: [], declarations: [], rehearsals: [] };
  const note = (asset: string, text: string): void => {
    if (!isDeclaration(asset, text)) uses.declarations.push({ asset, text });
  };
  const noteAll = <T extends { name: string }>(
    asset: string,
    what: string,
    old: readonly T[] | undefined,
    now: readonly T[] | undefined,
  ): void => old?.forEach((d, i) => d !== now![i] && note(asset, `${what} ${d.name}`));
  for (const [i, owner] of index.assets.entries()) {
    const [old, now] = [owner.decl, after.assets[i]];
    if (old === now) continue;
    if (old.tags !== now.tags) note(old.id, 'tags');
    noteAll(old.id, 'property', old.properties, now.properties);
    noteAll(old.id, 'event', old.events, now.events);
    noteAll(old.id, 'action', old.actions, now.actions);
    old.placements?.forEach((placement, k) => {
      if (placement !== now.placements![k] && !isDeclaration(old.id, `placement ${placement.id}`))
        uses.placements.push({ owner, placement });
    });
    old.bindings?.forEach((binding, k) => {
      if (binding !== now.bindings![k] && !isDeclaration(old.id, `binding ${binding.id}`))
        uses.bindings.push({ owner, binding });
    });
  }
  noteAll('', 'channel', project.channels, after.channels);
  noteAll('', 'enum', project.enums, after.enums);
  noteAll('', 'key table', project.tables, after.tables);
  noteAll('', 'load set', project.loadSets, after.loadSets);
  noteAll('', 'peer', project.peers, after.peers);
  project.rehearsals?.forEach((r, i) => r !== after.rehearsals![i] && uses.rehearsals.push(r.name));
  return uses;
}

/** How the declaration of a name is reported. */
function declared({ kind, of, name }: NameRef): string {
  switch (kind) {
    case 'table':
      return `key table ${name}`;
    case 'loadSet':
      return `load set ${name}`;
    case 'enumValue':
      return `enum ${of}`;
    case 'tableKey':
      return `key table ${of}`;
    case 'param':
      return `action ${of}`;
    case 'eventField':
      return `event ${of}`;
    case 'channelField':
      return `channel ${of}`;
    default:
      return `${kind} ${name}`;
  }
}

/** How many places name something. */
export function countUses({ bindings, placements, declarations, rehearsals }: NameUses): number {
  return bindings.length + placements.length + declarations.length + rehearsals.length;
}
