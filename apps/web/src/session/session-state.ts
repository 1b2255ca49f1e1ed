import type {
  AuditResult,
  ChangeSet,
  FindingChange,
  Project,
  ProjectIndex,
  RehearsalsResult,
  Side,
} from '@oquel/core';
import type { Present } from '../api/client.js';

export interface LastEdit {
  label: string;
  /** Somebody else who made it; null for this window. */
  who: string | null;
  /** Null while the audit runs. */
  change: FindingChange | null;
}
export interface SessionState {
  readonly id: string;
  readonly project: Project;
  readonly index: ProjectIndex;
  readonly audit: AuditResult | null;
  /** All rehearsals as they ran last; null until they are asked for, by somebody or by the policy. */
  readonly rehearsed: RehearsalsResult | null;
  readonly lastEdit: LastEdit | null;
  readonly undo: string | null;
  readonly redo: string | null;
  readonly saving: 'saved' | 'saving' | 'offline';
  /** Edits that the server does not have yet. */
  readonly waiting: number;
  /** Whether changes of others come in at once. */
  readonly connected: boolean;
  /** All windows that have the project open. */
  readonly present: readonly Present[];
  /** Counts what happened to the builds. */
  readonly buildsChanged: number;
  /** Edits of this window that met edits of others, until somebody chooses. */
  readonly conflicts: readonly Conflict[];
}
/** An edit of this window that is not stored, since somebody else had changed the same. */
export interface Conflict {
  mine: ChangeSet;
  theirs: readonly { who: string; label: string }[];
  sides: readonly Side[];
}
export interface Notice {
  text: string;
  kind: 'told' | 'refused';
}
