import { canonicalJson } from '../project/canonical.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import { defaultOfType } from '../project/type-values.js';
import type { Binding, Placement } from '../project/types.js';
import type { TableKind } from '../tables/kind.js';
import { TABLES } from '../tables/tables.js';
import { append } from '../util/append.js';
import { parseAssetHead } from '../wireline/asset-line.js';
import { parseDeclaration } from '../wireline/declaration.js';
import { parsePlacement } from '../wireline/placement.js';
import { printWireLine } from '../wireline/print.js';
import { parseProjectLine } from '../wireline/project-line.js';
import { bare } from './bare.js';
import { neededBy } from './needed.js';
import { withinChosen } from '../wireline/stage-lines.js';

/** A text of lines, and what of the project they do not say. */
export interface LinesText {
  text: string;
  left: string[];
}
const MOST_LEFT = 50;

/**
 * The whole project as lines: pasted into an empty project they give the same wiring and the same audit. What lines have no
 * words for is named, at the end of the text too. Linear in the project.
 */
export function projectLines(index: ProjectIndex): LinesText {
  const { policy, waivers = [], rehearsals = [], note } = index.project;
  const writer = new Writer(index);
  writer.projectPart(() => true);
  for (const asset of index.assets) writer.asset(asset);
  if (note !== undefined) writer.left.push('the note of the project');
  if (policy) writer.left.push('the policy');
  if (waivers.length > 0) writer.left.push(`${waivers.length} waiver${waivers.length > 1 ? 's' : ''}`);
  if (rehearsals.length > 0)
    writer.left.push(`${rehearsals.length} rehearsal${rehearsals.length > 1 ? 's' : ''}`);
  return writer.end();
}
/** Assets with all that they need: what is placed and spawned in them, channels, enums and key tables. */
export function assetLines(index: ProjectIndex, ids: readonly string[]): LinesText {
  const needed = neededBy(index, ids, []);
  const writer = new Writer(index);
  writer.projectPart((kind, name) => needed.names.has(`${kind} ${name}`));
  for (const id of ids) writer.asset(index.assets[index.assetAt.get(id)!]);
  for (const asset of index.assets) {
    if (needed.assets.has(asset.decl.id) && !ids.includes(asset.decl.id)) writer.asset(asset);
  }
  append(
    writer.left,
    needed.elsewhere.map((scene) => `${scene}, to which lines lead`),
  );
  return writer.end();
}
/** Things of an asset with the bindings between them, and all that they need; for pasting into any asset. */
export function chosenLines(index: ProjectIndex, owner: AssetIndex, chosen: readonly string[]): LinesText {
  const { placements, bindings } = withinChosen(owner, chosen);
  const needed = neededBy(index, [], [{ owner, placements, bindings }]);
  const writer = new Writer(index);
  writer.projectPart((kind, name) => needed.names.has(`${kind} ${name}`));
  writer.stage(owner.decl.id, placements, bindings);
  for (const asset of index.assets) if (needed.assets.has(asset.decl.id)) writer.asset(asset);
  append(
    writer.left,
    needed.elsewhere.map((scene) => `${scene}, to which lines lead`),
  );
  return writer.end();
}

class Writer {
  readonly left: string[] = [];
  private readonly lines: string[] = [];
  /** Things that a manifest of the game declares. */
  private marked = 0;

  constructor(private readonly index: ProjectIndex) {}

  projectPart(isWanted: (kind: TableKind, name: string) => boolean): void {
    for (const kind of PROJECT) {
      for (const item of TABLES[kind].all(this.index, -1)) {
        if (isWanted(kind, TABLES[kind].nameOf(item))) this.line(kind, '', item);
      }
    }
  }
  asset({ decl, at }: AssetIndex): void {
    if (this.lines.length > 0) this.lines.push('');
    this.line('assets', '', decl);
    if (decl.backdrop) this.left.push(`the backdrop of ${decl.id}`);
    for (const kind of ['properties', 'events', 'actions'] as const) {
      for (const item of TABLES[kind].all(this.index, at)) this.line(kind, decl.id, item);
    }
    this.stage(decl.id, decl.placements ?? [], decl.bindings ?? []);
  }
  stage(of: string, placements: readonly Placement[], bindings: readonly Binding[]): void {
    for (const p of placements) this.line('placements', of, p);
    append(this.lines, bindings.map(printWireLine));
  }
  /** A line that does not read back as what it was printed of says only a part of it. */
  private line(kind: TableKind, of: string, item: object): void {
    const table = TABLES[kind];
    if ('origin' in item || 'source' in item) this.marked++;
    const line = table.line(item);
    const back = this.back(kind, line);
    const isWhole = back !== null && canonicalJson(bare(kind, back)) === canonicalJson(bare(kind, item));
    if (!isWhole)
      this.left.push(
        `${back ? 'a part of ' : ''}the ${table.one} ${table.nameOf(item)}${of === '' ? '' : ` of ${of}`}`,
      );
    this.lines.push(back ? line : `// ${line.replace(/[\r\n]/g, ' ')}`);
  }
  private back(kind: TableKind, line: string): object | null {
    if (kind === 'assets') return valueOf(parseAssetHead(line));
    if (kind === 'placements') return valueOf(parsePlacement(line));
    if (PROJECT.includes(kind)) return valueOf(parseProjectLine(line))?.value ?? null;
    return valueOf(parseDeclaration(line, (type) => defaultOfType(this.index, type)))?.value ?? null;
  }
  end(): LinesText {
    if (this.marked > 0) this.left.push('where the game declares what');
    const shown = this.left.slice(0, MOST_LEFT);
    if (this.left.length > MOST_LEFT) shown.push(`${this.left.length - MOST_LEFT} more`);
    const tail =
      shown.length > 0
        ? ['', '// Not in these lines:', ...shown.map((l) => `//   ${l.replace(/[\r\n]/g, ' ')}`)]
        : [];
    return { text: `${[...this.lines, ...tail].join('\n')}\n`, left: this.left };
  }
}
const PROJECT: readonly TableKind[] = ['enums', 'tables', 'channels', 'loadSets', 'peers'];
function valueOf<T>(read: { value: T } | { fault: unknown }): T | null {
  return 'value' in read ? read.value : null;
}
