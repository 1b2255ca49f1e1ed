import type { KeyCounts } from './channel-nodes.js';
import { HEARING_STRIDE, NO_KEY, PUBLICATION_STRIDE, type BindingRecords, type Graph } from './graph.js';
import { isEmpty, joinRecords, splitRecords } from './records.js';

/** A key of a channel that an edit used more or less often, and whether it was used before. */
interface Use {
  of: KeyCounts;
  channel: number;
  key: number;
  was: boolean;
}

/** Keeps the records of a graph's bindings over edits, with who uses which channel. Cost of an edit: the records that differ. */
export class RecordBook {
  /** For each channel the authored bindings that listen on it, and those that publish to it. */
  private readonly listeners: Set<number>[];
  private readonly publishers: Set<number>[];
  /** Keys that the edit at hand uses otherwise. */
  private uses = new Map<string, Use>();

  constructor(private readonly g: Graph) {
    const channels = g.x.index.project.channels ?? [];
    this.listeners = channels.map(() => new Set<number>());
    this.publishers = channels.map(() => new Set<number>());
    for (const [authored, records] of g.records) this.register(authored, records, true);
  }

  /** Authored bindings that listen on a channel. */
  listenersOf(channel: number): Iterable<number> {
    return this.listeners[channel];
  }
  /** Authored bindings that publish to a channel or listen on it. */
  *users(channel: number): Iterable<number> {
    yield* this.publishers[channel];
    yield* this.listeners[channel];
  }

  /** Takes out what a binding has in copies of some owners, or in all; undefined where it has nothing. */
  take(authored: number, owners: ReadonlySet<number> | 'all'): BindingRecords | undefined {
    const { g } = this;
    const records = g.records.get(authored);
    if (!records) return undefined;
    this.register(authored, records, false);
    g.records.delete(authored);
    g.faulty.delete(authored);
    if (owners === 'all') return records;
    const [taken, kept] = splitRecords(records, owners);
    if (!isEmpty(kept)) this.put(authored, kept);
    return taken;
  }
  /** Adds what a binding has in other copies. */
  add(authored: number, records: BindingRecords): void {
    const kept = this.take(authored, 'all');
    this.put(authored, kept ? joinRecords(kept, records) : records);
  }
  private put(authored: number, records: BindingRecords): void {
    const { g } = this;
    g.records.set(authored, records);
    if (records.faults.length > 0) g.faulty.add(authored);
    this.register(authored, records, true);
  }
  private register(authored: number, { hearings, publications }: BindingRecords, isThere: boolean): void {
    const put = (authoredOf: Set<number>): unknown =>
      isThere ? authoredOf.add(authored) : authoredOf.delete(authored);
    for (let h = 0; h < hearings.length; h += HEARING_STRIDE) put(this.listeners[hearings[h + 1]]);
    for (let p = 0; p < publications.length; p += PUBLICATION_STRIDE)
      put(this.publishers[publications[p + 1]]);
  }

  /** Counts what records say of channels, or takes it back. */
  count({ publications, hearings }: BindingRecords, times: 1 | -1): void {
    const { published, heard } = this.g;
    const add = (of: KeyCounts, channel: number, key: number): void => {
      const id = `${of === heard ? 'heard' : 'published'} ${channel} ${key}`;
      if (!this.uses.has(id)) this.uses.set(id, { of, channel, key, was: of.has(channel, key) });
      of.add(channel, key, times);
    };
    for (let p = 0; p < publications.length; p += PUBLICATION_STRIDE) {
      add(published, publications[p + 1], publications[p + 2]);
    }
    for (let h = 0; h < hearings.length; h += HEARING_STRIDE) add(heard, hearings[h + 1], hearings[h + 2]);
  }
  /** The channels that were counted since the last time, and those of them that are used at other keys now. */
  countedChannels(): { channels: Set<number>; otherKeys: Set<number> } {
    const uses = [...this.uses.values()];
    this.uses = new Map();
    const others = uses.filter(({ of, channel, key, was }) => of.has(channel, key) !== was);
    return {
      channels: new Set(uses.map((u) => u.channel)),
      otherKeys: new Set(others.map((u) => u.channel)),
    };
  }
}

/** Calls `take` each time that a binding's records name a channel node; one with a missing end names none. */
export function eachNaming(
  { faults, publications, hearings }: BindingRecords,
  take: (channel: number, key: number) => void,
): void {
  const half = new Set<number>();
  for (let f = 0; f < faults.length; f += 2) half.add(faults[f]);
  for (let p = 0; p < publications.length; p += PUBLICATION_STRIDE) {
    if (publications[p + 3] === 1) take(publications[p + 1], publications[p + 2]);
  }
  for (let h = 0; h < hearings.length; h += HEARING_STRIDE) {
    if (hearings[h + 2] >= NO_KEY && !half.has(hearings[h])) take(hearings[h + 1], hearings[h + 2]);
  }
}
