import type { Project } from './types.js';

type Names = ReadonlyMap<string, ReadonlySet<string>>;

/** The values of enums and the keys of key tables, by name, in the order of the document. Cost: theirs, when first asked for. */
export class TypeNames {
  private enums: Names | null = null;
  private tables: Names | null = null;

  constructor(private readonly project: Project) {}

  get ofEnums(): Names {
    return (this.enums ??= new Map((this.project.enums ?? []).map((e) => [e.name, new Set(e.values)])));
  }
  get ofTables(): Names {
    return (this.tables ??= new Map((this.project.tables ?? []).map((t) => [t.name, new Set(t.keys)])));
  }
}
