import type { Need } from '../declare/needs.js';
import { readNote, type Note, type NoteAsk, type NoteLine } from '../declare/note.js';
import { applyChanges } from '../edit/apply.js';
import type { Change } from '../edit/change.js';
import { indexProject, type ProjectIndex } from '../project/index-project.js';
import type { Placement } from '../project/types.js';
import { missingFor } from '../tables/missing.js';
import { tableChanges } from '../tables/table-changes.js';
import { TABLES } from '../tables/tables.js';
import { append } from '../util/append.js';
import { declareInProject } from '../wireline/project-line.js';
import { declaredRow, type DeclaredRow } from './declared-rows.js';
import { sectionsOf, type DeclaredLine } from './sections.js';

/** As a note; of lines that declare something `declares` says what. */
export interface ReadLine extends NoteLine {
  declares: string | null;
}
export interface ReadLines extends Omit<Note, 'lines'> {
  lines: readonly ReadLine[];
  /** Lines that are taken and are no bindings. */
  declared: number;
}

/**
 * Reads a text of lines that declare, place and wire, for a whole project: heads say which scene, prefab or widget the lines
 * below belong to; what stands before them belongs to `owner`. What is there otherwise is changed only if it is ticked. What
 * wire lines and placements need besides is made as with {@link readNote}. Everything is one edit. Cost: the text, and the
 * project for each asset that has wire lines which need something.
 */
export function readLines(index: ProjectIndex, owner: string, text: string, ask: NoteAsk = {}): ReadLines {
  const { wishes = new Map(), ticks = new Map(), isMaking = true } = ask;
  const { declared, wired } = sectionsOf(index, owner, text);
  const reading = new Reading(index, ticks);
  reading.take(declared.filter((l) => l.kind === 'assets'));
  const placed = declared.filter((l) => l.kind === 'placements' && l.item && ticks.get(l.number) !== false);
  if (isMaking && placed.length > 0) {
    const cells = placed.map(({ number, of, item }) => {
      const { id, asset } = item as Placement;
      return { line: number, cells: [of, id, asset] };
    });
    const { needs, making, meant } = missingFor(reading.now, TABLES.placements, cells, {
      mapping: { asset: 0, id: 1, of: 2 },
      owner: '',
      wishes,
    });
    for (const line of placed) {
      const item = line.item as Placement;
      line.item = { ...item, asset: meant(item.asset) };
    }
    append(reading.needs, needs);
    reading.apply(making);
  }
  reading.take(declared.filter((l) => l.kind !== 'assets' && l.kind !== 'tag'));
  reading.tag(declared.filter((l) => l.kind === 'tag'));
  let isOpen = reading.needs.some((n) => n.isOpen || n.fault !== null);
  let count = 0;
  for (const [asset, { lines: own, numbers }] of wired) {
    const at = reading.now.assetAt.get(asset);
    if (at === undefined) {
      own.forEach((text, i) => reading.homeless(numbers[i], text, asset));
      continue;
    }
    const ownTicks = new Map(numbers.flatMap((n, i) => (ticks.has(n) ? [[i + 1, ticks.get(n)!]] : [])));
    const note = readNote(reading.now, reading.now.assets[at], own.join('\n'), { ...ask, ticks: ownTicks });
    append(
      reading.lines,
      note.lines.map((l) => ({ ...l, number: numbers[l.number - 1], declares: null })),
    );
    append(reading.needs, note.needs);
    count += note.count;
    // Bindings alone change nothing for those that follow.
    if (note.changes && note.needs.length > 0) reading.apply(note.changes);
    else if (note.changes) append(reading.changes, note.changes);
    else if (note.count > 0) isOpen = true;
  }
  const lines = reading.lines.sort((a, b) => a.number - b.number);
  const changes = isOpen || reading.changes.length === 0 ? null : reading.changes;
  return { lines, needs: reading.needs, changes, count, declared: reading.count };
}

/** A project on its way through a text. */
class Reading {
  readonly lines: ReadLine[] = [];
  readonly needs: Need[] = [];
  readonly changes: Change[] = [];
  /** Declaring lines that are taken. */
  count = 0;

  constructor(
    public now: ProjectIndex,
    private readonly ticks: ReadonlyMap<number, boolean>,
  ) {}

  apply(changes: readonly Change[]): void {
    if (changes.length === 0) return;
    append(this.changes, changes);
    this.now = indexProject(applyChanges(this.now.project, changes).project);
  }

  /** Lines whose places in the project do not hang on one another. */
  take(lines: readonly DeclaredLine[]): void {
    const lists = new Map<string, ReadonlyMap<string, object>>();
    const said = new Map<string, number>();
    const rows = new Map<NonNullable<DeclaredLine['kind']>, DeclaredRow[]>();
    for (const line of lines) {
      const { kind, item, of } = line;
      if (kind === null || kind === 'tag' || !item) {
        this.put(line, 'broken', [line.fault?.message ?? '']);
        continue;
      }
      const row = declaredRow(this.now, kind, of, item, lists);
      const key = `${kind} ${of} ${row.name}`;
      const before = said.get(key);
      if (before !== undefined && row.state !== 'broken' && kind !== 'assets') {
        this.put(line, 'faulty', [`${row.name} already appears in line ${before}`]);
        continue;
      }
      if (before === undefined) said.set(key, line.number);
      const state = STATE[row.state];
      const isTicked = this.put(line, state, row.reason === '' ? [] : [row.reason]);
      if (!isTicked || row.state === 'same' || (before !== undefined && row.state === 'new')) continue;
      this.count++;
      const own = rows.get(kind);
      if (own) own.push(row);
      else rows.set(kind, [row]);
    }
    const changes: Change[] = [];
    for (const [kind, own] of rows) {
      const taken = own.map((r) => ({
        ...r,
        line: 0,
        faults: [],
        state: r.state === 'new' ? ('new' as const) : ('changed' as const),
      }));
      append(
        changes,
        tableChanges(this.now, TABLES[kind as Exclude<typeof kind, 'tag'>], taken, { isLaidOut: true }),
      );
    }
    this.apply(changes);
  }

  tag(lines: readonly DeclaredLine[]): void {
    for (const line of lines) {
      const value = line.item as { name: string; assets: string[] };
      const missing = value.assets.filter((id) => !this.now.assetAt.has(id));
      const has = (id: string): boolean =>
        this.now.assets[this.now.assetAt.get(id)!].decl.tags?.includes(value.name) === true;
      if (missing.length > 0) {
        this.put(line, 'faulty', [`there is no ${missing.join(', ')}`], false);
      } else if (value.assets.every(has)) this.put(line, 'wired', [`${value.name} already exists`]);
      else {
        const changes = declareInProject(this.now, { kind: 'tag', value });
        const isTicked = this.put(
          line,
          changes ? 'new' : 'faulty',
          changes ? [] : [`there is a tag ${value.name} already`],
          changes !== null,
        );
        if (!changes || !isTicked) continue;
        this.count++;
        this.apply(changes);
      }
    }
  }

  /** A wire line of something that is not there: its head cannot be read, or is not ticked. */
  homeless(number: number, text: string, asset: string): void {
    const reasons = [`there is no scene, prefab or widget ${asset}`];
    const line: ReadLine = {
      number,
      text,
      state: 'faulty',
      binding: null,
      reasons,
      fault: null,
      isTicked: false,
      declares: null,
    };
    this.lines.push(line);
  }
  private put(line: DeclaredLine, state: NoteLine['state'], reasons: string[], canTick = true): boolean {
    const isTaken = line.item !== null && canTick && state !== 'broken' && state !== 'wired';
    const isTicked = isTaken && (this.ticks.get(line.number) ?? state === 'new');
    const { number, text, fault, kind, item } = line;
    const declares =
      !item || state === 'broken' || !canTick
        ? null
        : kind === null || kind === 'tag'
          ? text.trim()
          : TABLES[kind].line(item);
    this.lines.push({ number, text, state, binding: null, reasons, fault, isTicked, declares });
    return isTicked;
  }
}
const STATE = { new: 'new', same: 'wired', other: 'faulty', broken: 'broken' } as const;
