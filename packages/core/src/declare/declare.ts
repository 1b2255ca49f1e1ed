import type { Change } from '../edit/change.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import { defaultOfType } from '../project/type-values.js';
import type { Asset, Binding, Channel, Placement } from '../project/types.js';
import { parseDeclaration, type Declaration } from '../wireline/declaration.js';
import { withFreeId } from '../wireline/paste.js';
import type { LineBinding } from '../wireline/parse.js';
import { parsePlacement } from '../wireline/placement.js';
import { parseProjectLine } from '../wireline/project-line.js';
import type { Need, Wishes } from './needs.js';
import { AREA, areas } from './area.js';
import { Offers, type Item } from './offer.js';
import { layOut, type Places } from './places.js';
import { LinesReading } from './reading.js';
import { countStems } from './stems.js';

/** What lines would make besides their bindings. */
export interface Declared {
  needs: readonly Need[];
  /** For each line its binding, with the names that were meant and an id of its own. */
  bindings: readonly Binding[];
  /** What is made without the bindings. */
  making: Change[];
  /** All that is made, and the bindings behind it. What is open still, or cannot be taken as it is written, is not made. */
  changes: Change[];
}

/**
 * What must be declared and placed so that lines have everything that they name, and the edit that does it: placements of
 * prefabs that are called alike or made new, events with a cause that is guessed from their names and fields that are typed
 * by what they are given to, actions, channels, and the properties that are read. What looks like a slip of the pen is asked
 * about. Things are placed near what they talk to, in the order of the lines. The same for the same lines. Cost: the lines,
 * and the owner's placements.
 */
export function declareFor(
  index: ProjectIndex,
  owner: AssetIndex,
  lines: readonly LineBinding[],
  wishes: Wishes = new Map(),
): Declared {
  const reading = new LinesReading(index, owner, wishes, countStems(lines));
  for (const line of lines) reading.read(line);
  return new Maker(index, owner, reading, wishes).make();
}

interface Made {
  need: Need;
  item: Item;
}

class Maker {
  constructor(
    private readonly index: ProjectIndex,
    private readonly owner: AssetIndex,
    private readonly reading: LinesReading,
    private readonly wishes: Wishes,
  ) {}

  make(): Declared {
    const { index, owner, reading } = this;
    const places = layOut(owner, reading, this.wishes);
    const offers = new Offers(index, reading, places, this.kind());
    const made = [...reading.needs.values()].flatMap((need): Made[] => {
      const offered = offers.of(need);
      need.text = offered.text;
      if (offered.item === null) return [];
      const item = this.wished(need) ?? offered.item;
      return need.isOpen || need.fault !== null ? [] : [{ need, item }];
    });
    const taken = new Set<string>();
    const bindings = reading.lines.map((line) => withFreeId(owner, line, taken));
    const making = this.changesOf(made, places);
    const changes = [...making, ...this.wiring(bindings)];
    return { needs: [...reading.needs.values()], bindings, making, changes };
  }

  /** What somebody wrote in the place of what is offered; what cannot be taken is reported in the need. */
  private wished(need: Need): Item | null {
    const text = this.wishes.get(need.key)?.text;
    if (text === undefined) return null;
    need.text = text;
    const read =
      need.kind === 'placement'
        ? parsePlacement(text)
        : need.kind === 'channel'
          ? parseProjectLine(text, 'channel')
          : parseDeclaration(text, (type) => defaultOfType(this.index, type));
    if ('fault' in read) {
      need.fault = `${read.fault.message} at character ${read.fault.at + 1}`;
      return null;
    }
    const item = 'id' in read.value ? { kind: 'placement' as const, value: read.value } : read.value;
    const name = 'id' in item.value ? item.value.id : item.value.name;
    if ('id' in item.value) {
      const placed = this.index.assets[this.index.assetAt.get(item.value.asset) ?? -1] as
        AssetIndex | undefined;
      if (placed?.decl.kind === 'scene' || placed === this.owner) {
        need.fault = `${item.value.asset} cannot be placed here`;
        return null;
      }
    }
    if (item.kind !== need.kind || name !== need.name) {
      need.fault = `it must declare the ${need.kind} ${need.name}, which the lines name`;
      return null;
    }
    return item;
  }

  private changesOf(made: readonly Made[], places: Places): Change[] {
    const { index, owner, reading } = this;
    const parts = new Map<
      string,
      { events: Declaration[]; actions: Declaration[]; properties: Declaration[] }
    >();
    const open = new Set(
      [...reading.needs.values()].filter((n) => n.kind === 'asset' && n.isOpen).map((n) => n.name),
    );
    const channels: Channel[] = [];
    const placements: Placement[] = [];
    for (const { need, item } of made) {
      if (open.has(need.of)) continue;
      if (item.kind === 'channel') channels.push(item.value);
      else if (item.kind === 'placement') placements.push(item.value);
      else {
        let of = parts.get(need.of);
        if (!of) parts.set(need.of, (of = { events: [], actions: [], properties: [] }));
        of[LIST[item.kind]].push(item);
      }
    }
    const isNeeded = new Set(placements.map((p) => p.asset));
    const assets = [...reading.needs.values()].filter(
      (n) => n.kind === 'asset' && !n.isOpen && (isNeeded.has(n.name) || parts.has(n.name)),
    );
    const kind = this.kind();
    const changes: Change[] = [];
    if (channels.length > 0) {
      changes.push({ op: 'set', part: 'channels', value: [...(index.project.channels ?? []), ...channels] });
    }
    assets.forEach(({ name }, i) => {
      const own = parts.get(name);
      parts.delete(name);
      const item: Asset = { id: name, kind, ...(areas(own?.events ?? []) ? { area: AREA } : {}) };
      for (const part of PARTS) {
        const list = own?.[part] ?? [];
        if (list.length > 0) Object.assign(item, { [part]: list.map((d) => d.value) });
      }
      changes.push({ op: 'add', index: index.assets.length + i, item });
    });
    for (const [id, own] of parts) {
      const asset = index.assets[index.assetAt.get(id) ?? -1] as AssetIndex | undefined;
      if (!asset) continue;
      for (const part of PARTS) {
        if (own[part].length === 0) continue;
        const value = [...asset[part], ...own[part].map((d) => d.value)];
        changes.push({ op: 'set', asset: id, part, value } as Change);
      }
    }
    if (places.grown && placements.length > 0) {
      changes.push({ op: 'set', asset: owner.decl.id, part: 'size', value: places.grown });
    }
    placements.forEach((item, i) => {
      changes.push({
        op: 'insert',
        list: 'placements',
        asset: owner.decl.id,
        index: owner.placements.length + i,
        item,
      });
    });
    return changes;
  }
  /** A widget holds widgets alone. */
  private kind(): 'prefab' | 'widget' {
    return this.owner.decl.kind === 'widget' ? 'widget' : 'prefab';
  }
  private wiring(bindings: readonly Binding[]): Change[] {
    const { owner } = this;
    return bindings.map((item, i): Change => ({
      op: 'insert',
      list: 'bindings',
      asset: owner.decl.id,
      index: owner.bindings.length + i,
      item,
    }));
  }
}
const LIST = { event: 'events', action: 'actions', property: 'properties' } as const;
const PARTS = ['properties', 'events', 'actions'] as const;
