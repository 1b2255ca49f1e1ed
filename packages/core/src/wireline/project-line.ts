import { changeItems } from '../catalogue/edits.js';
import type { Change } from '../edit/change.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Channel, EnumDecl, KeyTable, LoadSet, Peer } from '../project/types.js';
import { attempt, fieldsAt, nameAt, type ParsedText } from './declared.js';
import { Scanner, WireLineFault } from './scanner.js';

/** One line that declares something of the project itself. */
export type ProjectDeclaration =
  | { kind: 'channel'; value: Channel }
  | { kind: 'enum'; value: EnumDecl }
  | { kind: 'table'; value: KeyTable }
  | { kind: 'loadSet'; value: LoadSet }
  | { kind: 'peer'; value: Peer }
  /** Words that scenes, prefabs and widgets are found and chosen by. */
  | { kind: 'tag'; value: { name: string; assets: string[] } };
export type ProjectKind = ProjectDeclaration['kind'];

/**
 * Reads `channel tension(speed: float)`, `enum Side: port, starboard`, `key table lines: bow, stern`,
 * `load set day: quay, deck`, `peer host server`, `tag loud: Bell, Horn`. Where the kind is known the words for it may be left out.
 */
export function parseProjectLine(
  text: string,
  kind: ProjectKind | null = null,
): ParsedText<ProjectDeclaration> {
  const s = new Scanner(text);
  try {
    const declaration = declarationAt(
      s,
      kindAt(s) ?? kind ?? s.fail('channel, enum, key table, load set, peer or tag'),
    );
    if (!s.ended) s.fail('the end');
    return { value: declaration };
  } catch (error) {
    if (error instanceof WireLineFault) return { fault: error };
    throw error;
  }
}

const WORDS: [RegExp, ProjectKind][] = [
  [/^channel(?=\s+\S)/, 'channel'],
  [/^enum(?=\s+\S)/, 'enum'],
  [/^(?:key\s+)?table(?=\s+\S)/, 'table'],
  [/^load\s+set(?=\s+\S)/, 'loadSet'],
  [/^peer(?=\s+\S)/, 'peer'],
  [/^tag(?=\s+\S)/, 'tag'],
];
/** Whether a line begins as one that declares something of the project. */
export function isProjectLine(text: string): boolean {
  const line = text.trimStart();
  return WORDS.some(([word]) => word.test(line));
}
function kindAt(s: Scanner): ProjectKind | null {
  return WORDS.find(([word]) => s.take(word) !== null)?.[1] ?? null;
}
function declarationAt(s: Scanner, kind: ProjectKind): ProjectDeclaration {
  switch (kind) {
    case 'channel': {
      const name = nameAt(s, 'the name of the channel');
      const payload = s.take(/^\(/) === null ? [] : fieldsAt(s);
      if (payload.length > 0 && s.take(/^\)/) === null) s.fail('")"');
      else if (payload.length === 0) s.take(/^\)/);
      s.skipBlanks();
      const note = s.takeWord('note') ? quotedAt(s) : undefined;
      return {
        kind,
        value: { name, ...(payload.length > 0 ? { payload } : {}), ...(note === undefined ? {} : { note }) },
      };
    }
    case 'enum': {
      const name = nameAt(s, 'the name of the enum');
      return { kind, value: { name, values: itemsAt(s, 'a value') } };
    }
    case 'table': {
      const name = nameAt(s, 'the name of the key table');
      return { kind, value: { name, keys: itemsAt(s, 'a key') } };
    }
    case 'loadSet': {
      const name = nameAt(s, 'the name of the load set');
      return { kind, value: { name, scenes: s.sees(/^:/) ? itemsAt(s, 'a scene') : [] } };
    }
    case 'tag': {
      const name = nameAt(s, 'the tag');
      return { kind, value: { name, assets: itemsAt(s, 'a scene, prefab or widget') } };
    }
    case 'peer': {
      const name = nameAt(s, 'the name of the peer');
      const role = s.take(/^(?:server|client)(?![\w-])/) ?? s.fail('server or client');
      return { kind, value: { name, role: role as Peer['role'] } };
    }
  }
}
function quotedAt(s: Scanner): string {
  s.skipBlanks();
  return s.takeQuoted() ?? s.fail('text in quotes');
}
/** Behind a colon: texts with commas between them; in quotes where they have a comma or a quote. */
function itemsAt(s: Scanner, what: string): string[] {
  if (s.take(/^:/) === null) s.fail(`":" and ${what}`);
  return listAt(s, what);
}
/** Reads `bow, "stern, left"`; `()` is none. */
export function parseItems(text: string, what: string): ParsedText<string[]> {
  return attempt(text, (s) => listAt(s, what));
}
function listAt(s: Scanner, what: string): string[] {
  if (s.take(/^\(\s*\)/) !== null) return [];
  const items: string[] = [];
  do {
    s.skipBlanks();
    const item = s.takeQuoted() ?? s.takeHere(/^[^,"]+/)?.trim() ?? s.fail(what);
    if (items.includes(item)) s.fail(`${what} that does not exist yet`);
    items.push(item);
  } while (s.take(/^,/) !== null);
  return items;
}

const PART = {
  channel: 'channels',
  enum: 'enums',
  table: 'tables',
  loadSet: 'loadSets',
  peer: 'peers',
} as const;
/**
 * The change that puts a declaration behind the others of its kind; null where its name is taken, and for a tag where one of
 * its assets is not there.
 */
export function declareInProject(index: ProjectIndex, declaration: ProjectDeclaration): Change[] | null {
  const { project, assetAt } = index;
  const { kind, value } = declaration;
  if (kind === 'tag') {
    const isFree = !project.assets.some((a) => a.tags?.includes(value.name));
    if (!isFree || !value.assets.every((id) => assetAt.has(id))) return null;
    return changeItems(index, { kind, asset: '', name: value.name }, value.assets);
  }
  const part = PART[kind];
  const list: readonly { name: string }[] = project[part] ?? [];
  if (list.some((d) => d.name === value.name)) return null;
  return [{ op: 'set', part, value: [...list, value] } as Change];
}
