import { fieldNamed } from '../project/fields.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import { parsePath } from '../project/path.js';
import { literalsOf, withLiterals } from '../project/condition.js';
import type { Arg, Asked, Field, Type, Value } from '../project/types.js';
import { isLiteral } from '../project/value.js';
import type { NameVisitor } from './name.js';
import { each, patched } from './patch.js';

/** What a `payload` argument reads from: an event, a channel, or the parameters of an action. */
export type FieldSource = { kind: 'eventField' | 'channelField' | 'param'; asset: string; of: string } | null;

/** Resolves names against a project and shows them to a visitor. */
export class NameContext {
  constructor(
    readonly index: ProjectIndex,
    readonly visit: NameVisitor,
  ) {}

  assetOf(id: string): AssetIndex | null {
    return this.index.assets[this.index.assetAt.get(id) ?? -1] ?? null;
  }
  asset(id: string): string {
    return this.visit('asset', '', '', id);
  }
  /** A name that an asset declares; without the asset it stands for nothing. */
  inside(
    asset: AssetIndex | null,
    kind: 'event' | 'action' | 'property' | 'placement' | 'binding',
    name: string,
  ): string {
    return asset ? this.visit(kind, asset.decl.id, '', name) : name;
  }
  field(source: FieldSource, name: string): string {
    return source ? this.visit(source.kind, source.asset, source.of, name) : name;
  }

  type(type: Type): Type {
    if (type.startsWith('enum:')) return `enum:${this.visit('enum', '', '', type.slice(5))}`;
    return type.startsWith('key:') ? `key:${this.visit('table', '', '', type.slice(4))}` : type;
  }
  /** A literal of a declared type: a value of an enum and a key of a table are names, too. */
  value<V extends Value>(type: Type | undefined, value: V): V {
    if (typeof value !== 'string' || type === undefined) return value;
    if (type.startsWith('enum:')) return this.visit('enumValue', '', type.slice(5), value) as V;
    return type.startsWith('key:') ? (this.visit('tableKey', '', type.slice(4), value) as V) : value;
  }
  /** The same of what is asked. A list of values is one that may grow: it is the same if none differs. */
  asked(type: Type | undefined, asked: Asked): Asked {
    if (typeof type !== 'string' || !/^(?:enum|key):/.test(type)) return asked;
    const next = withLiterals(asked, (v) => this.value(type, v));
    return literalsOf(next).every((v, i) => v === literalsOf(asked)[i]) ? asked : next;
  }
  fields<F extends readonly Field[] | undefined>(source: NonNullable<FieldSource>, fields: F): F {
    return each(fields, (f) => patched(f, { name: this.field(source, f.name), type: this.type(f.type) }));
  }
  /** An argument: what it reads is a name, and so may a literal be. */
  arg(arg: Arg, type: Type | undefined, reader: AssetIndex | null, payload: FieldSource): Arg {
    if (isLiteral(arg)) return this.value(type, arg);
    if ('payload' in arg) return patched(arg, { payload: this.field(payload, arg.payload) });
    if ('property' in arg) return patched(arg, { property: this.inside(reader, 'property', arg.property) });
    return arg;
  }

  /**
   * A path, and the asset that it leads to. The owner is null for an address, which begins with a scene. Cost: its
   * segments.
   */
  path(owner: AssetIndex | null, path: string): { at: string; asset: AssetIndex | null } {
    const { scene, segments } = parsePath(path);
    let asset = scene === null ? owner : this.assetOf(scene);
    const written = segments.map((segment) => {
      if (!segment.startsWith('~')) {
        const name = this.inside(asset, 'placement', segment);
        const slot = asset?.placementAt.get(segment);
        asset = slot === undefined ? null : (this.index.assets[asset!.placed[slot]] ?? null);
        return name;
      }
      // A copy in a rehearsal carries a number.
      const [, id, number] = /^~([^#]*)(.*)$/.exec(segment)!;
      asset = this.assetOf(id);
      return `~${this.asset(id)}${number}`;
    });
    const rest = segments.length === 0 ? '.' : written.join('/');
    return { at: scene === null ? rest : `${this.asset(scene)}:${rest}`, asset };
  }

  /** The type of a field of what an event, a channel or an action carries. */
  typeOfField(source: FieldSource, name: string): Type | undefined {
    if (!source) return undefined;
    if (source.kind === 'channelField') return this.typeOfChannelField(source.of, name);
    const asset = this.assetOf(source.asset);
    return source.kind === 'eventField'
      ? this.typeOfEventField(asset, source.of, name)
      : this.typeOfParam(asset, source.of, name);
  }
  typeOfProperty(asset: AssetIndex | null, name: string): Type | undefined {
    return asset?.properties[asset.propertyAt.get(name) ?? -1]?.type;
  }
  typeOfParam(asset: AssetIndex | null, action: string, name: string): Type | undefined {
    return fieldType(asset?.actions[asset.actionAt.get(action) ?? -1]?.params, name);
  }
  typeOfEventField(asset: AssetIndex | null, event: string, name: string): Type | undefined {
    return fieldType(asset?.events[asset.eventAt.get(event) ?? -1]?.payload, name);
  }
  typeOfChannelField(channel: string, name: string): Type | undefined {
    const at = this.index.channelAt.get(channel);
    return fieldType(this.index.project.channels?.[at ?? -1]?.payload, name);
  }
}
function fieldType(fields: readonly Field[] | undefined, name: string): Type | undefined {
  return fieldNamed(fields, name)?.type;
}
