import { applyChanges } from '../edit/apply.js';
import type { Change } from '../edit/change.js';
import { expand } from '../expand/expand.js';
import type { Expansion } from '../expand/expansion.js';
import { buildGraph } from '../graph/build.js';
import {
  differsInBindingsAlone,
  indexProject,
  reindexProject,
  type ProjectIndex,
} from '../project/index-project.js';
import type { Project } from '../project/types.js';
import { auditContext, type RunRule } from './audit.js';
import { AuditContext } from './context.js';
import { readyEvidence } from './evidence.js';
import type { AuditResult } from './finding.js';
import type { AssetMemo } from './ground.js';
import type { Report } from './rule.js';

/**
 * An open project with its audit, which is kept up with edits: the result is that of an audit from scratch, but what an
 * edit does not touch is taken over. After an edit of bindings alone these are the expansion, the names of all other
 * assets, what rules on the text found in them, and the rules that do not look at bindings; the graph is built anew.
 */
export class LiveAudit {
  private current: Project;
  private index: ProjectIndex;
  private x: Expansion;
  private memo: AssetMemo = new WeakMap();
  private told = new Map<string, Report<string>[]>();
  result: AuditResult;

  /** @throws ProjectTooLarge */
  constructor(
    project: Project,
    private readonly today: string,
  ) {
    this.current = project;
    this.index = indexProject(project);
    this.x = expand(this.index);
    this.result = this.audit();
  }
  get project(): Project {
    return this.current;
  }

  /** Applies changes and audits again. On an error the project stays as it was. @throws EditRefused, ProjectTooLarge */
  apply(changes: readonly Change[]): AuditResult {
    const { project } = applyChanges(this.current, changes);
    const index = reindexProject(this.index, project);
    const bindingsAlone = index.assets.length === this.index.assets.length && this.sameButBindings(index);
    const x = bindingsAlone ? this.x.withBindingsOf(index) : expand(index);
    if (!bindingsAlone) {
      this.memo = new WeakMap();
      this.told = new Map();
    }
    this.current = project;
    this.index = index;
    this.x = x;
    this.result = this.audit();
    return this.result;
  }

  private sameButBindings(index: ProjectIndex): boolean {
    const [before, after] = [this.current, index.project];
    const keys = new Set([...Object.keys(before), ...Object.keys(after)]) as Set<keyof Project>;
    keys.delete('assets');
    for (const key of keys) if (before[key] !== after[key]) return false;
    return index.assets.every((asset, i) => {
      const old = this.index.assets[i];
      return asset === old || differsInBindingsAlone(asset.decl, old.decl);
    });
  }

  private audit(): AuditResult {
    const ctx = new AuditContext(buildGraph(this.x), this.today, this.memo);
    const run: RunRule = (rule, report) => {
      if (!rule.meta.ignoresBindings) return rule.check(ctx, report);
      let told = this.told.get(rule.meta.name);
      if (!told) {
        told = [];
        rule.check(ctx, (r) => told!.push({ ...r, evidence: readyEvidence(r.evidence()) }));
        this.told.set(rule.meta.name, told);
      }
      told.forEach(report);
    };
    return auditContext(ctx, undefined, run);
  }
}
