import type { AuditResult, FindingChange, Project, ProjectIndex, RehearsalsResult } from '@oquel/core';
import type { PresentWindow } from '../api/client.js';
import type { Access } from './access.js';

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
  /** What one may do here; null where nobody has to sign in, and everybody may do everything. */
  readonly access: Access | null;
  readonly index: ProjectIndex;
  readonly audit: AuditResult | null;
  /** All rehearsals as they ran last; null until they are asked for, by somebody or by the policy. */
  readonly rehearsed: RehearsalsResult | null;
  /** The play whose coverage is shown in the place of that of rehearsals; null for none. */
  readonly played: Played | null;
  readonly lastEdit: LastEdit | null;
  /** What undo and redo would take of one's own edits; null for nothing. */
  readonly undo: string | null;
  readonly redo: string | null;
  readonly saving: 'saved' | 'saving' | 'offline';
  /** Why the server cannot be asked; null if it can. */
  readonly trouble: string | null;
  /** Edits that the server does not have yet. */
  readonly waiting: number;
  /** Whether edits wait that would not outlive the window. */
  readonly unkept: boolean;
  /** Whether changes of others come in at once. */
  readonly connected: boolean;
  /** All windows that have the project open. */
  readonly present: readonly PresentWindow[];
  /** Counts what happened to the builds. */
  readonly buildsChanged: number;
  /** Grows with each play that has come in, or gone. */
  readonly playsChanged: number;
  /** Edits of this window that met edits of others, until somebody chooses. */
  readonly conflicts: readonly Conflict[];
  /** Edits that are kept until they are tried again or dropped. */
  readonly aside: readonly Aside[];
  /** Edits that windows which are gone have left. */
  readonly found: readonly string[];
}
export interface Played {
  name: string;
  /** For each binding, as `asset/binding`, how many of its copies have served. */
  served: ReadonlyMap<string, number>;
}
/** An edit of this window that is not stored, since somebody else had changed the same. */
export interface Conflict {
  label: string;
  theirs: readonly { who: string; label: string }[];
  /** The project as it is with the others, and as it would be with this edit; null if that can no longer be applied. */
  theirProject: Project;
  ownProject: Project | null;
  /** Names that both touched. */
  names: readonly string[];
}
/** Edits that were set aside, and why. */
export interface Aside {
  group: string;
  labels: readonly string[];
  words: string;
}
export interface Notice {
  text: string;
  kind: 'info' | 'refused';
}
