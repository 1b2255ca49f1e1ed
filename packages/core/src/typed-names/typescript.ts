import type { Expansion } from '../expand/expansion.js';
import { LIMITS } from '../limits.js';
import type { Field, Type } from '../project/types.js';
import { wiredActions } from './wired.js';

/**
 * The names of a project as TypeScript types: a game that raises what does not exist, carries what does not fit or leaves a wired
 * action without code does not compile. Cost: declarations, bindings and placed instances.
 */
export function typescriptNames(x: Expansion, hash: string): string {
  const { project } = x.index;
  return [
    `// Made by \`oquel names\` from ${JSON.stringify(project.name)}. Do not edit.`,
    '/* eslint-disable */',
    '',
    '/** The version of the project: as in its compiled wiring. */',
    `export const HASH = '${hash}';`,
    '',
    'export type Vec2 = readonly [number, number];',
    map(
      'Enums',
      'Values of each enum.',
      (project.enums ?? []).map((e) => [e.name, union(e.values)]),
    ),
    map(
      'Keys',
      'Keys of each key table.',
      (project.tables ?? []).map((t) => [t.name, union(t.keys)]),
    ),
    map(
      'Channels',
      'What each channel carries.',
      (project.channels ?? []).map((c) => [c.name, fieldsType(c.payload)]),
    ),
    `export type Peer = ${union((project.peers ?? []).map((p) => p.name))};`,
    assetTypes(x),
    instanceTypes(x),
    handlerTypes(x),
    GENERIC,
  ].join('\n');
}

/** Types that are the same for every project. */
const GENERIC = `export type AssetName = keyof Assets;
export type EventOf<A extends AssetName> = keyof Assets[A]['events'];
export type ActionOf<A extends AssetName> = keyof Assets[A]['actions'];
/** Raises an event of a placed instance: \`world.raise as Raise\`. */
export type Raise = <I extends keyof Instances, E extends EventOf<Instances[I]>>(
  address: I,
  event: E,
  payload: Assets[Instances[I]]['events'][E],
  options?: { activator?: AssetName; by?: Peer },
) => void;
/** Publishes to a channel: \`world.publish as Publish\`. */
export type Publish = <C extends keyof Channels>(
  channel: C,
  payload: Channels[C],
  key?: boolean | number | string | Vec2,
) => void;
/** Calls the handler of an action; give it to the world as \`perform\`. */
export function performWith(
  handlers: Handlers,
): (instance: { readonly asset: string; readonly address: string }, action: string, args: object) => void {
  const all = handlers as unknown as Record<string, Record<string, (address: string, args: object) => void> | undefined>;
  return ({ asset, address }, action, args) => all[asset]?.[action]?.(address, args);
}
`;

function assetTypes({ index }: Expansion): string {
  const assets = index.assets.map(({ decl, events, actions, properties }) => {
    const list = (entries: [string, string][]): string =>
      `{ ${entries.map(([k, t]) => `${key(k)}: ${t}`).join('; ')} }`;
    const parts = [
      `events: ${list(events.map((e) => [e.name, fieldsType(e.payload)]))}`,
      `actions: ${list(actions.map((a) => [a.name, fieldsType(a.params)]))}`,
      `properties: ${list(properties.map((p) => [p.name, typeText(p.type)]))}`,
    ];
    return `  ${key(decl.id)}: {\n    ${parts.join(';\n    ')};\n  };`;
  });
  return `/** Events with what they carry, actions with their parameters, properties; by asset. */\nexport interface Assets {\n${assets.join('\n')}\n}`;
}

function instanceTypes(x: Expansion): string {
  const lines: string[] = [];
  for (let i = 0; i < x.count && lines.length <= LIMITS.typedNames.instances; i++) {
    if (!x.isSpawned(i))
      lines.push(`  ${JSON.stringify(x.address(i))}: ${JSON.stringify(x.assetOf(i).decl.id)};`);
  }
  if (lines.length > LIMITS.typedNames.instances) {
    return `/** More than ${LIMITS.typedNames.instances} instances: their addresses are not listed. */\nexport type Instances = Record<string, AssetName>;`;
  }
  return `/** Placed instances by address, with their assets. */\nexport interface Instances {\n${lines.join('\n')}\n}`;
}

function handlerTypes(x: Expansion): string {
  const wired = wiredActions(x.index);
  const assets = x.index.assets.flatMap(({ decl, actions }) => {
    const names = actions.map((a) => a.name).filter((name) => wired.has(`${decl.id}/${name}`));
    if (names.length === 0) return [];
    const fields = names.map(
      (name) =>
        `${key(name)}(address: string, args: Assets[${JSON.stringify(decl.id)}]['actions'][${JSON.stringify(name)}]): void`,
    );
    return [`  ${key(decl.id)}: { ${fields.join('; ')} };`];
  });
  return `/** Code for every action that a binding delivers to; what its effects do is done by the runtime. */\nexport interface Handlers {\n${assets.join('\n')}\n}`;
}

function fieldsType(fields: readonly Field[] = []): string {
  if (fields.length === 0) return 'Record<string, never>';
  return `{ ${fields.map((f) => `${key(f.name)}${f.optional ? '?' : ''}: ${typeText(f.type)}`).join('; ')} }`;
}
function typeText(type: Type): string {
  if (type === 'bool') return 'boolean';
  if (type === 'int' || type === 'float') return 'number';
  if (type === 'vec2') return 'Vec2';
  if (type.startsWith('enum:')) return `Enums[${JSON.stringify(type.slice(5))}]`;
  if (type.startsWith('key:')) return `Keys[${JSON.stringify(type.slice(4))}]`;
  return 'string';
}
function map(name: string, about: string, entries: [string, string][]): string {
  return `/** ${about} */\nexport interface ${name} {\n${entries.map(([k, t]) => `  ${key(k)}: ${t};`).join('\n')}\n}`;
}
function union(values: readonly string[]): string {
  return values.length === 0 ? 'never' : values.map((v) => JSON.stringify(v)).join(' | ');
}
function key(name: string): string {
  return /^[A-Za-z_$][\w$]*$/.test(name) ? name : JSON.stringify(name);
}
