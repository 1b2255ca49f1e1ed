import type { ProjectIndex } from '../project/index-project.js';
import { defaultOfType } from '../project/type-values.js';
import type { Action, Channel, EventDecl, Field, Placement } from '../project/types.js';
import { printDeclaration, type Declaration } from '../wireline/declaration.js';
import { printFields } from '../wireline/declared.js';
import { guessCause } from '../wireline/guess.js';
import { printName } from '../wireline/names.js';
import { printPlacement } from '../wireline/placement.js';
import { needKey, type Need } from './needs.js';
import type { Places } from './places.js';
import type { LinesReading } from './reading.js';

/** What is made of a need. */
export type Item =
  Declaration | { kind: 'channel'; value: Channel } | { kind: 'placement'; value: Placement };

/** What is made of each need unless somebody wants something else, with the line that says it. */
export class Offers {
  /** Actions that look as if they brought an event about, by the event's key, and the other way. */
  private readonly actionOf = new Map<string, string>();
  private readonly eventOf = new Map<string, string>();

  constructor(
    private readonly index: ProjectIndex,
    private readonly reading: LinesReading,
    private readonly places: Places,
    /** What a new asset is. */
    private readonly kind: 'prefab' | 'widget',
  ) {
    const actions = new Map<string, string>();
    for (const { kind, of, name } of reading.needs.values()) {
      if (kind === 'action') for (const past of pastOf(name)) actions.set(`${of}/${past}`, name);
    }
    for (const { kind, of, name, key } of reading.needs.values()) {
      // What an event carries would have to come from somewhere.
      if (kind !== 'event' || (reading.said.get(key)?.fields.size ?? 0) > 0) continue;
      const action = actions.get(`${of}/${name.replace(/^on/, '').toLowerCase()}`);
      if (action === undefined) continue;
      this.actionOf.set(key, action);
      this.eventOf.set(needKey('action', action, of), name);
    }
  }

  /** A prefab is made of what it declares, and is no item of its own. */
  of(need: Need): { item: Item | null; text: string } {
    const { reading, places } = this;
    switch (need.kind) {
      case 'asset':
        return { item: null, text: `${this.kind} ${printName(need.name)}` };
      case 'placement': {
        const at = places.at.get(need.name);
        // It has none as long as it is not known what is meant.
        const asset = reading.placed.get(need.name) ?? '';
        if (asset === '') return { item: null, text: `place ${printName(need.name)}` };
        const value: Placement = { id: need.name, asset, ...(at ? { at } : {}) };
        return { item: { kind: 'placement', value }, text: printPlacement(value) };
      }
      case 'channel': {
        const payload = this.fields(need, false);
        const value: Channel = { name: need.name, ...(payload ? { payload } : {}) };
        const fields = payload ? `(${printFields(payload)})` : '';
        return { item: { kind: 'channel', value }, text: `channel ${printName(need.name)}${fields}` };
      }
      case 'event':
        return declared({ kind: 'event', value: this.event(need) });
      case 'action':
        return declared({ kind: 'action', value: this.action(need) });
      case 'property': {
        const { slot, isKey } = reading.properties.get(need.key)!;
        const type = reading.slots.typeOf(slot);
        const value = { name: need.name, type, default: defaultOfType(this.index, type) };
        return declared({ kind: 'property', value: isKey ? { ...value, isKey } : value });
      }
    }
  }
  private event(need: Need): EventDecl {
    const payload = this.fields(need, true);
    const cause = this.actionOf.has(need.key) ? ({ type: 'raised' } as const) : guessCause(need.name);
    return { name: need.name, cause, ...(payload ? { payload } : {}) };
  }
  private action(need: Need): Action {
    const params = this.fields(need, false);
    const raise = this.eventOf.get(need.key);
    return {
      name: need.name,
      ...(params ? { params } : {}),
      ...(raise === undefined ? {} : { effects: [{ raise }] }),
    };
  }

  /** Fields in the order in which they are named; one that some line leaves out is optional, but not in what an event carries. */
  private fields(need: Need, isPayload: boolean): Field[] | null {
    const said = this.reading.said.get(need.key);
    if (!said || said.fields.size === 0) return null;
    return [...said.fields].map(([name, { slot, uses }]): Field => {
      const type = this.reading.slots.typeOf(slot);
      return !isPayload && uses < said.uses ? { name, type, optional: true } : { name, type };
    });
  }
}

function declared(item: Declaration): { item: Declaration; text: string } {
  return { item, text: printDeclaration(item) };
}

/** How an action is called once it has been done, as far as a rule says it: open, opened; close, closed; stop, stopped; shut, shut. */
function pastOf(action: string): string[] {
  const a = action.toLowerCase();
  return [a, `${a}ed`, `${a}d`, `${a}${a.at(-1) ?? ''}ed`, a.replace(/y$/, 'ied'), a.replace(/ight$/, 'it')];
}
