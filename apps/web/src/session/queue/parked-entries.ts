import type { Entry } from './entry.js';

/** Entries that do not wait for the server. Those that build on one another are a group. */
export class ParkedEntries {
  private entries: Entry[] = [];

  get count(): number {
    return this.entries.length;
  }
  keys(): string[] {
    return this.entries.map((e) => e.key);
  }
  /** Groups that are parked in that way, the oldest first. */
  groups(how: 'met' | 'aside'): Entry[][] {
    const by = new Map<string, Entry[]>();
    for (const entry of this.entries.filter((e) => e.parked!.how === how)) {
      const group = by.get(entry.parked!.group);
      if (group) group.push(entry);
      else by.set(entry.parked!.group, [entry]);
    }
    return [...by.values()];
  }
  ofGroup(group: string): Entry[] {
    return this.entries.filter((e) => e.parked!.group === group);
  }
  add(entries: readonly Entry[]): void {
    this.entries = [...this.entries, ...entries];
  }
  remove(entries: readonly Entry[]): void {
    this.entries = this.entries.filter((e) => !entries.includes(e));
  }
}
